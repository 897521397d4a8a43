import { createHash } from 'node:crypto'
import { z } from 'zod'
import { madeSegments, type MadeSegment, type Project, type SourceMetadata } from '@dusk/timeline'

/**
 * The kinds of things that are worked out from stored files, with the version of the method that makes each. A new way
 * of making one gets a new number, so that old ones are not taken for it.
 */
export const ARTEFACT_VERSIONS = { glance: 1, still: 2, sound: 3, proxy: 2, between: 1 } as const
export type ArtefactKind = keyof typeof ARTEFACT_VERSIONS

/** Names of the files an artefact consists of. */
export const ARTEFACT_FILES = {
  /** A still as previews draw it: a PNG of at most 1920 a side, upright, in sRGB. */
  still: { picture: 'preview.png' },
  /** The canonical sound of a stream (see `soundFile`) and its waveform. */
  sound: { samples: 'sound.pcm', waveform: 'waveform.bin' },
  /** With pieces of it, by {@link pieceName}, until it is whole. */
  proxy: { video: 'proxy.mp4' },
  /** Frames between a source's own: at full size, and as a proxy. */
  between: { video: 'between.mp4', proxy: 'between-proxy.mp4' },
  /** The film strip: it comes with a proxy, as a single tile with a still, or alone as a first glance. */
  strip: { jpg: 'strip.jpg', png: 'strip.png' },
} as const

/** Name of a piece of a proxy that can be used before the whole of it is there. */
export const pieceName = (piece: number) => `piece-${piece}.mp4`
export const isPieceName = (name: string) => /^piece-\d{1,6}\.mp4$/.test(name)

/** Whether an artefact can have a file of this name. */
export function isArtefactFile(name: string): boolean {
  const names: string[] = Object.values(ARTEFACT_FILES).flatMap((files) => Object.values(files))
  return isPieceName(name) || names.includes(name)
}

/** What a row tells of the pieces of a proxy that are there, by their number. */
export const proxyPiecesSchema = z.record(
  z.string().regex(/^\d+$/),
  z.object({ frames: z.int(), hashes: z.record(z.string(), z.string()) }),
)
export type ProxyPieces = z.infer<typeof proxyPiecesSchema>

/** The pieces of a proxy that a row tells of. */
export function piecesOf(facts: Record<string, unknown> | null): ProxyPieces {
  return proxyPiecesSchema.catch({}).parse(facts?.pieces ?? {})
}

export interface WantedArtefact {
  key: string
  kind: ArtefactKind
  source: string
  settings: Record<string, unknown>
}

/** An artefact by what it is made of. `settings` have to be plain data in a fixed order. */
export function artefact(kind: ArtefactKind, source: string, settings: Record<string, unknown> = {}): WantedArtefact {
  const content = JSON.stringify([kind, ARTEFACT_VERSIONS[kind], [source], settings])
  return { key: createHash('sha256').update(content).digest('hex'), kind, source, settings }
}

/** Pictures of the first glance at a source, and of the second: one that stands for it, then a strip. */
const GLANCES = [1, 40]

/** First film strips of a moving picture, of keyframes, that are there within seconds: the shortest first. */
export function glanceArtefacts(hash: string, metadata: Pick<SourceMetadata, 'kind'>): WantedArtefact[] {
  return metadata.kind === 'video' ? GLANCES.map((most) => artefact('glance', hash, { most })) : []
}

/** What previewing a source needs, in the order in which it is of use. */
export function previewArtefacts(hash: string, metadata: SourceMetadata): WantedArtefact[] {
  if (metadata.kind === 'still') return [artefact('still', hash)]
  return [
    ...metadata.sounds.map((_, stream) => artefact('sound', hash, { stream })),
    ...(metadata.kind === 'video' ? [artefact('proxy', hash)] : []),
  ]
}

/** The in-between frames of a stretch of a source. */
export function betweenArtefact(hash: string, { factor, segment }: Pick<MadeSegment, 'factor' | 'segment'>) {
  return artefact('between', hash, { factor, segment })
}

/** In-between frames that a project's clips name, each with the artefact that holds them. */
export function madeArtefacts(
  project: Project,
  hashOf: (assetId: string) => string | undefined,
): (MadeSegment & { artefact: WantedArtefact })[] {
  return madeSegments(project).flatMap((segment) => {
    const hash = hashOf(segment.assetId)
    return hash ? [{ ...segment, artefact: betweenArtefact(hash, segment) }] : []
  })
}
