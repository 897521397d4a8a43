import type { CanvasKit, FontCollection, TypefaceFontProvider } from 'canvaskit-wasm'
import { ownFont } from '@dusk/timeline'
import { LRUCache } from 'lru-cache'
import { fallbackFiles, fontFiles, FONTS, type FontFile, type FontReader } from './fonts'
import { hanFiles } from './hanFonts'
import { ownFontFile } from './ownFonts'

/** Fonts that were read so far, for setting text. */
export class FontRegistry {
  private readonly provider: TypefaceFontProvider
  private readonly names: string[] = []
  private readonly files = new Map<string, Promise<void>>()
  private current: FontCollection | null = null
  /** Names of the slices that a text's signs are in, in the order in which they are looked up. */
  private readonly han = new LRUCache<string, string[]>({ max: 200 })

  constructor(
    private readonly ck: CanvasKit,
    private readonly read: FontReader,
  ) {
    this.provider = ck.TypefaceFontProvider.Make()
  }

  /** Reads what a text in some fonts needs. @throws when a file can't be read */
  async need(families: Iterable<string>, text: string): Promise<void> {
    const files = [...families].flatMap(fontFiles)
    // Figures and signs that a display font lacks come from the plainest one.
    const plain = fontFiles(FONTS[0]!.family)
    const han = await hanFiles(text)
    if (han.length > 0)
      this.han.set(
        text,
        han.map(({ name }) => name),
      )
    const others = [...fallbackFiles(text), ...han]
    await Promise.all([...files, ...plain, ...others].map((file) => this.load(file)))
  }

  private load(file: FontFile): Promise<void> {
    let loading = this.files.get(file.path)
    if (!loading) {
      loading = this.read(file.path).then((bytes) => {
        if (!bytes) return
        this.provider.registerFont(bytes.slice().buffer, file.name)
        if (!this.names.includes(file.name)) this.names.push(file.name)
        this.current?.delete()
        this.current = null
      })
      loading.catch(() => this.files.delete(file.path))
      this.files.set(file.path, loading)
    }
    return loading
  }

  get collection(): FontCollection {
    if (!this.current) {
      this.current = this.ck.FontCollection.Make()
      this.current.setDefaultFontManager(this.provider)
    }
    return this.current
  }

  /**
   * Names to look a letter up in, for a font that was chosen: itself, then what was read for other scripts. Of signs
   * that several languages share only those of the text's own: what other titles had read must not show in this one.
   */
  order(family: string, text = ''): string[] {
    const given = ownFont(family)
    const known = FONTS.some((font) => font.family === family) ? family : FONTS[0]!.family
    const own = given ? [ownFontFile(given).name] : [known, `${known} ext`]
    const plain = [FONTS[0]!.family, `${FONTS[0]!.family} ext`]
    const signs = (this.han.get(text) ?? []).filter((name) => this.names.includes(name))
    const rest = this.names.filter((name) => name.startsWith('Noto') && !name.startsWith('Noto Han')).sort()
    // In the order of their names among those of other scripts, as ever: no letter that both hold changes its shape.
    const earlier = rest.filter((name) => name < 'Noto Han')
    return [...new Set([...own, ...earlier, ...signs, ...rest, ...plain])]
  }
}
