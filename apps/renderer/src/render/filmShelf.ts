import { CopyableFilm, type Storage } from '@dusk/media'
import type { SourceMetadata } from '@dusk/timeline'

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

  async close(): Promise<void> {
    for (const film of this.films.values()) await film.then((opened) => opened?.close()).catch(() => {})
    this.films.clear()
  }
}
