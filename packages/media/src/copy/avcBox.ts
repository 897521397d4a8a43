import { open } from 'node:fs/promises'

/** Boxes on the way to an H.264 track's configuration, and bytes of their own before what they hold. */
const WAY: readonly (readonly [kind: string, before: number])[] = [
  ...(['moov', 'trak', 'mdia', 'minf', 'stbl'] as const).map((kind) => [kind, 0] as const),
  ['stsd', 8],
  ['avc1', 78],
]

interface Box {
  kind: string
  /** Where it begins, where its content does, and where it ends. */
  from: number
  content: number
  end: number
}

/** The boxes of a stretch of bytes (ISO/IEC 14496-12 § 4.2), without those of more than 4 GiB. */
function* boxesOf(bytes: Buffer, from: number, end: number): Generator<Box> {
  for (let at = from; at + 8 <= end;) {
    const size = bytes.readUInt32BE(at)
    if (size < 8 || at + size > end) return
    yield { kind: bytes.toString('latin1', at + 4, at + 8), from: at, content: at + 8, end: at + size }
    at += size
  }
}

/**
 * Writes another decoder configuration into an MP4 or MOV of one H.264 track whose index lies at its end, so that no
 * place in it moves.
 * @throws when the file is built otherwise
 */
export async function replaceAvcConfig(path: string, record: Uint8Array): Promise<void> {
  const file = await open(path, 'r+')
  try {
    const { at, size } = await findIndex(file)
    const moov = Buffer.alloc(size)
    await file.read(moov, 0, size, at)
    const changed = withConfig(moov, record)
    await file.write(changed, 0, changed.length, at)
    await file.truncate(at + changed.length)
  } finally {
    await file.close()
  }
}

/** Where a file's index begins and how long it is. */
async function findIndex(file: Awaited<ReturnType<typeof open>>): Promise<{ at: number; size: number }> {
  const { size: whole } = await file.stat()
  const head = Buffer.alloc(16)
  for (let at = 0; at + 8 <= whole;) {
    await file.read(head, 0, 16, at)
    const short = head.readUInt32BE(0)
    const size = short === 1 ? Number(head.readBigUInt64BE(8)) : short || whole - at
    if (head.toString('latin1', 4, 8) === 'moov' && at + size === whole) return { at, size }
    if (size < 8) break
    at += size
  }
  throw new Error('A film to be joined has no index at its end.')
}

/** An index with another configuration: sizes of all boxes around it go along. */
function withConfig(moov: Buffer, record: Uint8Array): Buffer {
  const around: Box[] = []
  let [from, end] = [0, moov.length]
  for (const [kind, before] of WAY) {
    const box = [...boxesOf(moov, from, end)].find((one) => one.kind === kind)
    if (!box) throw new Error(`A film to be joined has no ${kind}.`)
    around.push(box)
    ;[from, end] = [box.content + before, box.end]
  }
  const old = [...boxesOf(moov, from, end)].find(({ kind }) => kind === 'avcC')
  if (!old) throw new Error('A film to be joined has no avcC.')
  const grown = record.length - (old.end - old.content)
  const changed = Buffer.concat([moov.subarray(0, old.content), record, moov.subarray(old.end)])
  for (const box of [...around, old]) changed.writeUInt32BE(box.end - box.from + grown, box.from)
  return changed
}
