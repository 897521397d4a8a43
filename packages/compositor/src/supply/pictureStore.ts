import type { Picture } from '../picture'

/** Pictures in the engine's memory by a name, the longest unused first to go once they take more than a limit. */
export class PictureStore {
  private readonly pictures = new Map<string, Picture>()
  private bytes = 0

  constructor(private readonly limit: number) {}

  get(name: string): Picture | undefined {
    const picture = this.pictures.get(name)
    if (!picture) return undefined
    this.pictures.delete(name)
    this.pictures.set(name, picture)
    return picture
  }

  /** Keeps a picture; what is named in `inUse` is not let go for it. */
  put(name: string, picture: Picture, inUse: ReadonlySet<string>): void {
    this.remove(name)
    this.pictures.set(name, picture)
    this.bytes += sizeOf(picture)
    for (const old of this.pictures.keys()) {
      if (this.bytes <= this.limit) return
      if (old !== name && !inUse.has(old)) this.remove(old)
    }
  }

  remove(name: string): void {
    const picture = this.pictures.get(name)
    if (!picture) return
    this.pictures.delete(name)
    this.bytes -= sizeOf(picture)
    picture.release()
  }

  clear(): void {
    for (const name of [...this.pictures.keys()]) this.remove(name)
  }
}

const sizeOf = ({ width, height }: Picture) => width * height * 4
