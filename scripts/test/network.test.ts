import { mkdtempSync, readFileSync, rmSync, statSync, writeFileSync } from 'node:fs'
import { createServer } from 'node:https'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { afterAll, describe, expect, it } from 'vitest'
import { StudioClient } from '../dusk/client'
import { keyOf } from '../dusk/keyFile'
import { networkOf, passphraseFile } from '../dusk/network'
import { parseOptions } from '../dusk/options'
import { StepFailed } from '../dusk/steps'

const data = mkdtempSync(join(tmpdir(), 'dusk-network-'))
afterAll(() => rmSync(data, { recursive: true, force: true }))
const options = (...more: string[]) => parseOptions('start', ['--data', data, '--port', '4871', ...more])

describe('the key of a data folder', () => {
  it('is made once, for the owner alone, and a broken one is said', () => {
    const key = keyOf(data)
    expect(keyOf(data)).toBe(key)
    expect(key.length).toBeGreaterThan(40)
    expect(statSync(join(data, 'key')).mode & 0o777).toBe(0o600)
    writeFileSync(join(data, 'key'), 'short')
    expect(() => keyOf(data)).toThrow(StepFailed)
    rmSync(join(data, 'key'))
  })
})

describe('how the studio is reached', () => {
  it('is on this machine alone, unless a host is named', async () => {
    const { origin, shown, env } = await networkOf(options())
    expect([origin, shown, env.HOST, env.NITRO_SSL_CERT]).toEqual([
      'http://127.0.0.1:4871',
      'http://127.0.0.1:4871',
      '127.0.0.1',
      undefined,
    ])
  })

  it('is never on the network without a passphrase, nor with half a certificate', async () => {
    await expect(networkOf(options('--host', '0.0.0.0'))).rejects.toThrow('./dusk passphrase')
    writeFileSync(passphraseFile(data), 'sealed')
    await expect(networkOf(options('--host', '0.0.0.0', '--cert', '/nowhere'))).rejects.toThrow('--certkey')
  })

  it('is by TLS with a certificate of its own, which is kept, and which our programs trust and no other', async () => {
    const network = await networkOf(options('--host', '127.0.0.2', '--name', 'quay.example'))
    expect([network.origin, network.shown]).toEqual(['https://127.0.0.2:4871', 'https://quay.example:4871'])
    expect(network.env.DUSK_HOSTS!.split(',')).toEqual(expect.arrayContaining(['127.0.0.2', 'quay.example']))
    expect(statSync(join(data, 'certificate-key.pem')).mode & 0o777).toBe(0o600)
    const again = await networkOf(options('--host', '127.0.0.2'))
    expect(again.certificate).toBe(network.certificate)
    // A name that it is not for yet asks for another.
    expect((await networkOf(options('--host', '127.0.0.3'))).certificate).not.toBe(network.certificate)

    const { cert, key } = { cert: network.env.NITRO_SSL_CERT!, key: network.env.NITRO_SSL_KEY! }
    const server = createServer({ cert, key }, (request, response) =>
      response.end(JSON.stringify({ by: request.headers.authorization })),
    ).listen(0, '127.0.0.2')
    await new Promise((resolve) => server.once('listening', resolve))
    const origin = `https://127.0.0.2:${(server.address() as { port: number }).port}`
    try {
      const client = new StudioClient({ origin, key: 'k', certificate: cert })
      expect(await client.json('/api/x')).toEqual({ by: 'Bearer k' })
      const other = readFileSync(join(data, 'certificate.pem'), 'utf8')
      await expect(new StudioClient({ origin, key: 'k', certificate: other }).json('/api/x')).rejects.toThrow()
      await expect(new StudioClient({ origin, key: 'k' }).json('/api/x')).rejects.toThrow(/self-signed/)
    } finally {
      server.close()
    }
  })
})
