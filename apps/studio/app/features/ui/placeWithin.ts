/** A place of this studio out of an address's query: a path and no other site, else the list of projects. */
export function placeWithin(asked: unknown): string {
  if (typeof asked !== 'string' || !asked.startsWith('/')) return '/'
  // Browsers read `//name` and `/\name` as another machine.
  const url = new URL(asked, 'http://studio')
  return url.origin === 'http://studio' && url.pathname !== '/enter' ? url.pathname + url.search : '/'
}
