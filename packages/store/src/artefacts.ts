import { createHash } from 'node:crypto'
import type { SourceMetadata } from '@dusk/timeline'

/**
 * The kinds of things that are worked out from stored files, with the version of the method that makes each. A new way
 * of making one gets a new number, so that old ones are not taken for it.
 */
export const ARTEFACT_VERSIONS = { still: 2, sound: 3, proxy: 2 } as const
export type ArtefactKind = keyof typeof ARTEFACT_VERSIONS

/** Names of the files an artefact consists of. */
export const ARTEFACT_FILES = {
  /** A still as previews draw it: a PNG of at most 1920 a side, upright, in sRGB. */
  still: { picture: 'preview.png' },
  /** The canonical sound of a stream (see `soundFile`) and its waveform. */
  sound: { samples: 'sound.pcm', waveform: 'waveform.bin' },
  proxy: { video: 'proxy.mp4' },
  /** The film strip: it comes with a proxy, or as a single tile with a still. */
  strip: { jpg: 'strip.jpg', png: 'strip.png' },
} as const

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

/** What previewing a source needs, in the order in which it is of use. */
export function previewArtefacts(hash: string, metadata: SourceMetadata): WantedArtefact[] {
  if (metadata.kind === 'still') return [artefact('still', hash)]
  return [
    ...metadata.sounds.map((_, stream) => artefact('sound', hash, { stream })),
    ...(metadata.kind === 'video' ? [artefact('proxy', hash)] : []),
  ]
}
