import { CopyableFilm, waitsFor, type Storage } from '@dusk/media'
import type { SourceMetadata } from '@dusk/timeline'
import { RenderFailed } from './request'

/** What is said when a film turns out to be damaged where it was to be copied: it can still be encoded. */
export function copyFailed(error: unknown, signal?: AbortSignal): unknown {
  if (signal?.aborted || waitsFor(error) !== null) return error
  return new RenderFailed(
    `A shot could not be taken over as it is coded: ${(error as Error).message} ` +
      'Render it again with changes, without keeping the quality of originals.',
  )
}

/** Films that coded pictures are copied from, each opened once. */
export class FilmShelf {
  private readonly films = new Map<string, Promise<CopyableFilm | null>>()

  constructor(private readonly storage: Pick<Storage, 'original'>) {}

  /** @returns `null` for a film that can't be copied from */
  open(hash: string, metadata: SourceMetadata): Promise<CopyableFilm | null> {
    let film = this.films.get(hash)
    if (!film) this.films.set(hash, (film = CopyableFilm.open(this.storage.original(hash), metadata)))
    return film
  }

  /** A film that a plan copies from. @throws when it can't be copied from any more */
  async openPlanned(hash: string, metadata: SourceMetadata): Promise<CopyableFilm> {
    const film = await this.open(hash, metadata)
    if (!film) throw new Error('Its file is no longer what it was.')
    return film
  }

  async close(): Promise<void> {
    for (const film of this.films.values()) await film.then((opened) => opened?.close()).catch(() => {})
    this.films.clear()
  }
}
