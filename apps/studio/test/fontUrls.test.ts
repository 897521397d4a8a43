import { describe, expect, it } from 'vitest'
import { EMOJI, fallbackFiles, fontFiles, FONTS } from '@dusk/compositor'
import { FONT_URLS } from '~/features/player/fontUrls'

describe('addresses of fonts', () => {
  it('are there for every file that a title can ask for', () => {
    const scripts = ['Ж', 'Ω', 'ạ', 'ع', 'ש', 'अ', 'ก'].flatMap(fallbackFiles)
    const files = [...FONTS.flatMap((font) => fontFiles(font.family)), ...scripts, EMOJI]
    expect(files.length).toBeGreaterThan(FONTS.length * 2)
    expect(files.filter(({ path }) => !FONT_URLS.has(path)).map(({ path }) => path)).toEqual([])
  })
})
