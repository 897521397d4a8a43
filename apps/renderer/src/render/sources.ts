import type { PictureSource } from '@dusk/media'
import { madeAt, madeName, type MadeFrames, type PictureLayer, type SourceMetadata } from '@dusk/timeline'

/** The stored file behind each asset and what is known of it. */
export type SourceBook = Map<string, BookEntry>

export interface BookEntry {
  hash: string
  metadata: SourceMetadata
  /** Bytes of the file as it was taken in, where that is known. */
  size?: number
  /** Files of frames made between those of the source, by the name of their stretch. */
  made?: ReadonlyMap<string, MadeFile>
}

/** A file of made frames, and what names it in a chunk's key. */
export interface MadeFile {
  path: string
  key: string
  metadata: PictureSource
}

/** Which made frames a book has. */
export const madeIn =
  (book: SourceBook): MadeFrames =>
  (segment) =>
    book.get(segment.assetId)?.made?.has(madeName(segment)) ?? false

/** The file of made frames that a layer shows one of, and its number there; `null` for frames of the source itself. */
export function madeFileOf(
  layer: PictureLayer,
  book: SourceBook,
): { file: MadeFile; name: string; frame: number } | null {
  if (!layer.made) return null
  const { segment, frame } = madeAt(layer.made.factor, layer.made.index)
  const name = madeName({ factor: layer.made.factor, segment })
  const file = book.get(layer.assetId)?.made?.get(name)
  if (!file) throw new Error('A frame that was to be made is not there.')
  return { file, name, frame }
}
