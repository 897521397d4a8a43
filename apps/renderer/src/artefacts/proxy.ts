import { frameCount, PROXY_PIECE, tableLength, type SourceMetadata } from '@dusk/timeline'
import {
  BadMedia,
  isUndecodable,
  joinProxy,
  makeProxy,
  makeProxyPiece,
  makeStrip,
  pieceCount,
  piecesFit,
  probe,
  proxySize,
  readTiming,
  seekSamples,
  seeksExactly,
  type MadeProxy,
} from '@dusk/media'
import { ARTEFACT_FILES } from '@dusk/store'
import { defineArtefact, type ArtefactInput } from './define'

/** Part of the work that is done when the proxy is written; then come the proof of seeking and the strip. */
const WRITTEN = 0.94

/**
 * The proxy of a moving picture and its film strip. On the way it is proven that seeking in the original lands on the
 * frames that the table names, which the render relies on. A long one is made in pieces, those that somebody looks at
 * first, which can be seen at once.
 */
export const proxy = defineArtefact({
  kind: 'proxy',
  async make(input) {
    const { original, metadata, storage, signal, progress } = input
    const video = await storage.scratch('.mp4')
    const sampled = metadata.seekable ? seekSamples(metadata) : []
    const inPieces = pieceCount(metadata) > 1 ? await madeInPieces(input, sampled, video) : null
    const written = (part: number) => progress(part * WRITTEN)
    const made = inPieces ?? (await makeProxy(original, metadata, video, { sampled, signal, progress: written }))
    const found: Partial<SourceMetadata> = {}
    if (made.frames !== frameCount(metadata.table!)) {
      // Packets and pictures do not agree, as in damaged files: times are taken from the pictures themselves.
      const timing = await readTiming(original, await probe(original), true, signal)
      Object.assign(found, {
        table: timing.table,
        zero: timing.zero,
        seekable: false,
        length: tableLength(timing.table),
        notes: [...metadata.notes, 'Some of its pictures can’t be decoded and are left out.'],
      })
    } else if (sampled.length > 0 && !(await seeksExactly(original, metadata, made.hashes, signal)))
      found.seekable = false
    progress((1 + WRITTEN) / 2)
    const sheet = await storage.scratch('.jpg')
    const strip = await makeStrip(video, found.table ?? metadata.table!, made, sheet, signal)
    return {
      files: { [ARTEFACT_FILES.proxy.video]: video, [ARTEFACT_FILES.strip.jpg]: sheet },
      // A page that still reads pieces is to find them: they are swept away later.
      facts: { width: made.width, height: made.height, strip: { ...strip, type: 'jpg' }, pieces: input.pieces.there },
      metadata: found,
    }
  },
})

/** Makes a proxy in pieces. @returns `null` when they don't fit together: then it is made in one go */
async function madeInPieces(
  input: ArtefactInput,
  sampled: readonly number[],
  video: string,
): Promise<MadeProxy | null> {
  try {
    const made = await makePieces(input, sampled, video)
    if (made) return made
  } catch (error) {
    // Where a file is damaged a piece can hold nothing at all.
    if (!(error instanceof BadMedia || isUndecodable(error))) throw error
    input.signal.throwIfAborted()
  }
  await input.pieces.drop()
  return null
}

/**
 * Makes a proxy piece by piece, going on with those that are there, and joins them.
 * @returns `null` when they don't fit together
 * @throws {BadMedia} where a piece holds no picture
 * @throws {ToolError}
 */
async function makePieces(
  { original, metadata, storage, pieces, signal, progress }: ArtefactInput,
  sampled: readonly number[],
  video: string,
): Promise<MadeProxy | null> {
  const count = pieceCount(metadata)
  const isThere = new Set<number>()
  for (const piece of Object.keys(pieces.there).map(Number))
    if (await storage.fetch(pieces.path(piece))) isThere.add(piece)
  while (isThere.size < count) {
    const piece = nextPiece(count, isThere, await pieces.near())
    const scratch = await storage.scratch('.mp4')
    const { frames, hashes } = await makeProxyPiece(original, metadata, piece, scratch, {
      sampled,
      signal,
      progress: (part) => progress(((isThere.size + part) / count) * WRITTEN),
    })
    await pieces.keep(piece, scratch, { frames, hashes })
    isThere.add(piece)
    if (isThere.size < count) await pieces.turn()
  }
  const all = Array.from({ length: count }, (_, piece) => pieces.there[piece]!)
  if (!piecesFit(metadata, all)) return null
  const chunks = all.map(({ frames }, piece) => ({ path: pieces.path(piece), frames }))
  await joinProxy(chunks, video, await storage.scratch('.txt'), signal)
  const hashes = new Map(sampled.map((n) => [n, all[Math.floor(n / PROXY_PIECE)]!.hashes[n]!]))
  return { ...proxySize(metadata.width!, metadata.height!), frames: frameCount(metadata.table!), hashes }
}

/** The piece to make next: what is looked at and what follows, then from the start. */
export function nextPiece(count: number, there: ReadonlySet<number>, near: number | null): number {
  const from = near === null ? 0 : Math.min(Math.floor(near / PROXY_PIECE), count - 1)
  for (let n = 0; n < count; n++) if (!there.has((from + n) % count)) return (from + n) % count
  return 0
}
