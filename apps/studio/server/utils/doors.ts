import { Problem } from './problem'

/** A part of a path: letters of RFC 3986 as they are, spaces and letters beyond ASCII encoded. */
const PART = String.raw`(?:[\w.~!$&'()*+,;=:@-]|%20|%[89A-Fa-f][\dA-Fa-f])+`
const STRAIGHT = new RegExp(String.raw`^\/(?:${PART}(?:\/${PART})*\/?)?$`)
const DOTS = /\/\.{1,2}(?:\/|$)/

/** Pages and files that are there before somebody was let in: the page that says how one is, and what it is made of. */
const OPEN_PAGES = /^\/(enter|_nuxt\/.*|__nuxt.*|lantern\.svg)\/?$/

/** Routes that answer before somebody was let in. Each says so itself, too: see `defineOpenApi`. */
const OPEN_ROUTES = [/^GET \/api\/health$/, /^(GET|POST) \/api\/access$/, /^GET \/open\/[^/]+$/]

/**
 * Whether an address means one thing to whoever reads it. One with dot segments, doubled or encoded slashes, or other
 * letters encoded that need not be could be judged as one place and served as another.
 * @param url of a request as it came over the wire, with its query
 */
export function isStraight(url: string): boolean {
  const path = url.split('?', 1)[0]!
  if (!STRAIGHT.test(path) || DOTS.test(path)) return false
  try {
    decodeURIComponent(path)
    return true
  } catch {
    return false
  }
}

/**
 * Whether something answers those who were not let in. All else is closed.
 * @param path straight, without its query: the one that the router goes by
 */
export function isOpen(method: string, path: string): boolean {
  if (OPEN_PAGES.test(path)) return method === 'GET' || method === 'HEAD'
  return OPEN_ROUTES.some((route) => route.test(`${method} ${path}`))
}

/** What is answered where an address is not straight. */
export function crooked(): Problem {
  return new Problem(
    400,
    'Not an address',
    'Addresses here have no dot segments, no doubled or encoded slashes, and encode only what has to be.',
  )
}
