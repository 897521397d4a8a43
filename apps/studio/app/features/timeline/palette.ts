/** Colours by the names of the theme. */
export type Palette = (name: string) => string

/** Reads the theme's colours once. */
export function readPalette(): Palette {
  const style = getComputedStyle(document.documentElement)
  const known = new Map<string, string>()
  return (name) => {
    let colour = known.get(name)
    if (!colour) known.set(name, (colour = style.getPropertyValue(`--color-${name}`).trim() || 'transparent'))
    return colour
  }
}
