import { mkdir, readdir, readFile, rename, rm, stat, writeFile } from 'node:fs/promises'
import { join } from 'node:path'
import { z } from 'zod'
import { postSchema, type Post } from '@dusk/interchange'

const shelvedSchema = postSchema.extend({
  id: z.uuid(),
  began: z.iso.datetime(),
  /** When it could be seen; `null` while it is being sent. */
  shown: z.iso.datetime().nullable(),
  /** Media type of the thumbnail. */
  thumbnail: z.string().nullable(),
})
/** A film on the board, or on its way there. */
export type Shelved = z.infer<typeof shelvedSchema>

/** Where the board keeps films: a folder each, with what is said of it beside the file. */
export class Shelf {
  private constructor(private readonly folder: string) {}

  static async open(folder: string): Promise<Shelf> {
    await mkdir(join(folder, 'posts'), { recursive: true, mode: 0o700 })
    return new Shelf(join(folder, 'posts'))
  }

  film = (id: string) => join(this.folder, id, 'film')
  thumbnail = (id: string) => join(this.folder, id, 'thumbnail')

  async begin(id: string, post: Post): Promise<void> {
    await mkdir(join(this.folder, id))
    await this.write({ ...post, id, began: new Date().toISOString(), shown: null, thumbnail: null })
  }

  async get(id: string): Promise<Shelved | null> {
    if (!z.uuid().safeParse(id).success) return null
    const text = await readFile(join(this.folder, id, 'post.json'), 'utf8').catch(() => null)
    return text === null ? null : shelvedSchema.parse(JSON.parse(text))
  }

  async write(post: Shelved): Promise<void> {
    const path = join(this.folder, post.id, 'post.json')
    await writeFile(`${path}.new`, JSON.stringify(post, null, 2))
    await rename(`${path}.new`, path)
  }

  async setThumbnail(post: Shelved, kind: string, bytes: Buffer): Promise<void> {
    await writeFile(this.thumbnail(post.id), bytes)
    await this.write({ ...post, thumbnail: kind })
  }

  /** Puts a film that has arrived where it can be seen. @param path of the file, which is moved */
  async show(post: Shelved, path: string): Promise<void> {
    await rename(path, this.film(post.id))
    await this.write({ ...post, shown: new Date().toISOString() })
  }

  /** Films that can be seen, the newest first. */
  async shown(): Promise<Shelved[]> {
    const ids = await readdir(this.folder)
    const posts = await Promise.all(ids.map((id) => this.get(id).catch(() => null)))
    return posts
      .filter((post) => post !== null && post.shown !== null)
      .sort((a, b) => b!.shown!.localeCompare(a!.shown!)) as Shelved[]
  }

  async remove(id: string): Promise<boolean> {
    if (!(await this.get(id))) return false
    await rm(join(this.folder, id), { recursive: true, force: true })
    return true
  }

  /** Removes what was begun long ago and never came. @param before the time, in ms since 1970 */
  async clearLeft(before: number): Promise<void> {
    for (const id of await readdir(this.folder)) {
      const post = await this.get(id).catch(() => null)
      const since = post ? Date.parse(post.began) : (await stat(join(this.folder, id))).mtimeMs
      if (!post?.shown && since < before) await rm(join(this.folder, id), { recursive: true, force: true })
    }
  }
}
