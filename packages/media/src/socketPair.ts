import { once } from 'node:events'
import { mkdtemp, rm } from 'node:fs/promises'
import { connect, createServer, type Socket } from 'node:net'
import { tmpdir } from 'node:os'
import { join } from 'node:path'

/** How what comes over a socket is taken, without a buffer being made for each piece of it. */
export interface Taking {
  /** Where the next bytes go; asked for before each read. */
  buffer(): Uint8Array
  /** So many bytes were read there. @returns whether to go on reading; else `resume()` does */
  took(bytes: number): boolean
}

/**
 * Two ends of a local socket: `writer` is handed to another program, `reader` puts what comes straight into buffers of
 * the caller's. A pipe as Node opens it would make a new buffer of 64 KB for every piece, a gigabyte a second of them
 * for large frames, and collecting those costs more than the reading.
 */
export async function socketPair(taking: Taking): Promise<{ reader: Socket; writer: Socket }> {
  // A folder that no other account can enter: whoever connects is us.
  const folder = await mkdtemp(join(tmpdir(), 'dusk-pair-'))
  const server = createServer({ pauseOnConnect: true })
  try {
    const path = join(folder, 's')
    server.listen(path)
    await once(server, 'listening')
    const connected = once(server, 'connection') as Promise<[Socket]>
    const onread = { buffer: () => taking.buffer(), callback: (bytes: number) => taking.took(bytes) }
    const reader = connect({ path, onread })
    const [writer] = await connected
    return { reader, writer }
  } finally {
    server.close()
    await rm(folder, { recursive: true, force: true })
  }
}
