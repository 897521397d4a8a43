const FILES = import.meta.glob<string>(
  [
    '../../../../../node_modules/@fontsource-variable/*/files/*-wght-*.woff2',
    '../../../../../node_modules/@fontsource/noto-color-emoji/files/noto-color-emoji-emoji-400-normal.woff2',
  ],
  { query: '?url', import: 'default', eager: true },
)

/** Addresses of the shipped fonts' files by their path under node_modules. */
export const FONT_URLS: ReadonlyMap<string, string> = new Map(
  Object.entries(FILES).map(([path, url]) => [path.slice(path.indexOf('node_modules/') + 13), url]),
)
