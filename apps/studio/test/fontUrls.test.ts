import { describe, expect, it } from 'vitest'
import { EMOJI, fallbackFiles, fontFiles, FONTS, hanFiles } from '@dusk/compositor'
import { FONT_URLS } from '~/features/player/fontUrls'

describe('addresses of fonts', () => {
  it('are there for every file that a title can ask for', async () => {
    const scripts = ['Ж', 'Ω', 'ạ', 'ع', 'ש', 'अ', 'ก'].flatMap(fallbackFiles)
    const files = [...FONTS.flatMap((font) => fontFiles(font.family)), ...scripts, EMOJI]
    for (const text of ['港の灯り', '灯火阑珊', '등불 축제']) files.push(...(await hanFiles(text)))
    expect(files.length).toBeGreaterThan(FONTS.length * 2)
    expect(files.filter(({ path }) => !FONT_URLS.has(path)).map(({ path }) => path)).toEqual([])
  })
})
