import { existsSync, readdirSync, readFileSync } from 'node:fs'
import { dirname, join } from 'node:path'
import { describe, expect, it } from 'vitest'
import { ROOT } from '../dusk/options'

const read = (path: string) => readFileSync(join(ROOT, path), 'utf8')
const PAGES = ['README.md', 'CONTRIBUTING.md', ...readdirSync(join(ROOT, 'docs')).map((name) => `docs/${name}`)].filter(
  (path) => path.endsWith('.md'),
)

/** Files below a folder, by their paths within it. */
function filesIn(folder: string): string[] {
  return readdirSync(join(ROOT, folder), { recursive: true, encoding: 'utf8' }).filter((path) => path.endsWith('.ts'))
}

/** A route as it is written in the page, with no names for its parts: `GET /api/projects/:`. */
const bare = (route: string) => route.replace(/\?.*$/, '').replace(/:[a-zA-Z]+/g, ':')

describe('docs and code say the same', () => {
  it('of the routes that there are', () => {
    const routes = filesIn('apps/studio/server/api').map((path) => {
      const [, place, method] = /^(.*?)(?:\.(get|post|delete|patch))?\.ts$/.exec(path)!
      const way = `/api/${place!.replace(/(^|\/)index$/, '').replace(/\[(\.\.\.)?[a-zA-Z]+\]/g, ':')}`.replace(
        /\/$/,
        '',
      )
      return `${(method ?? '').toUpperCase()} ${way}`.trim()
    })
    const page = read('docs/http-api.md')
    const told = new Set(
      [...page.matchAll(/`((?:(?:GET|POST|DELETE|PATCH) )?\/api\/[^`\s]*)`/g)].flatMap(([, route]) => {
        const plain = bare(route!)
        // Routes that take any way of asking are told by the one they are meant for.
        return [plain, plain.replace(/^GET /, '')]
      }),
    )
    // The rest of an upload's address is the protocol's own.
    expect(routes.filter((route) => !told.has(route) && route !== '/api/uploads/:')).toEqual([])
    const known = new Set(routes.flatMap((route) => [route, `GET ${route}`]))
    const written = [...page.matchAll(/`((?:GET|POST|DELETE|PATCH) \/api\/[^`\s]*)`/g)].map(([, route]) => bare(route!))
    expect(written.filter((route) => !known.has(route))).toEqual([])
  })

  it('of the commands of ./dusk', () => {
    const commands = [...read('scripts/dusk/main.ts').matchAll(/^ {2}([a-z]+): \(\) => import/gm)].map(
      ([, name]) => name!,
    )
    expect(commands.length).toBeGreaterThan(8)
    const shell = read('dusk')
    const text = PAGES.map(read).join('\n')
    const written = new Set([...text.matchAll(/\.\/dusk ([a-z]+)/g)].map(([, name]) => name!))
    expect(commands.filter((name) => !written.has(name))).toEqual([])
    expect([...written].filter((name) => !commands.includes(name) && !new RegExp(`\\b${name}\\b`).test(shell))).toEqual(
      [],
    )
  })

  it('of files that pages point to, and every picture is shown', () => {
    const lost: string[] = []
    const shown = new Set<string>()
    for (const page of PAGES)
      for (const [, target] of read(page).matchAll(/\]\(([^)#\s]+)[^)]*\)/g)) {
        if (/^https?:/.test(target!)) continue
        const path = join(dirname(page), target!)
        if (!existsSync(join(ROOT, path))) lost.push(`${page}: ${target}`)
        shown.add(path)
      }
    expect(lost).toEqual([])
    const pictures = readdirSync(join(ROOT, 'docs/screenshots')).map((name) => `docs/screenshots/${name}`)
    expect(pictures.filter((path) => !shown.has(path))).toEqual([])
  })

  it('of paths in the source that pages name', () => {
    const lost = PAGES.flatMap((page) =>
      [...read(page).matchAll(/`((?:apps|packages|scripts|e2e|bench|demo)\/[A-Za-z0-9_./[\]-]+)`/g)]
        .map(([, path]) => path!)
        .filter((path) => !path.includes('*') && !existsSync(join(ROOT, path)))
        .map((path) => `${page}: ${path}`),
    )
    expect(lost).toEqual([])
  })

  it('of colours: each is named once, in the theme', () => {
    const theme = read('apps/studio/app/assets/main.css')
    const named = new Set(
      [...theme.matchAll(/--color-[a-z-]+:\s*(#[0-9a-f]{6})/gi)].map(([, hex]) => hex!.toLowerCase()),
    )
    expect(named.size).toBeGreaterThan(10)
    // What films are made of stays as it is when the desk's own colours change.
    const inFilms = ['features/viewer/cells.ts', 'features/titles/generated.ts']
    const again = filesIn('apps/studio/app')
      .concat(
        readdirSync(join(ROOT, 'apps/studio/app'), { recursive: true, encoding: 'utf8' }).filter((p) =>
          p.endsWith('.vue'),
        ),
      )
      .filter((path) => !inFilms.includes(path))
      .flatMap((path) =>
        [...read(`apps/studio/app/${path}`).matchAll(/#[0-9a-f]{6}\b/gi)]
          .filter(([hex]) => named.has(hex.toLowerCase()))
          .map(([hex]) => `${path}: ${hex}`),
      )
    expect(again).toEqual([])
  })
})
