import { describe, expect, it } from 'vitest'

const sources = import.meta.glob<string>('../app/**/*.{ts,vue}', { query: '?raw', import: 'default', eager: true })
const routes = Object.keys(import.meta.glob('../server/api/**/*.ts'))

/** What the server answers to, as method (`*` for any) and path with `:` for a part that varies. */
const served = routes.map((file) => {
  const [, path, method] = /api\/(.*?)(?:\.(get|post|patch|put|delete))?\.ts$/.exec(file)!
  const parts = path!.split('/').filter((part) => part !== 'index')
  return `${(method ?? '*').toUpperCase()} /${parts.map((part) => (part.startsWith('[') ? ':' : part)).join('/')}`
})

/** Calls of `api` in the text of a file, with the first path and the method where they are written out. */
function callsIn(text: string): string[] {
  const calls = text.matchAll(/\bapi(?:<[^(]*>)?\(\s*[`']([^`']*)[`'](?:,\s*'([A-Z]+)')?/g)
  return [...calls].map(([, path, method]) => {
    const plain = path!
      .replace(/(?<=[^/])\$\{query\}$/, '')
      .replace(/\?.*$/, '')
      .replace(/\$\{[^}]*\}/g, ':')
    return `${method ?? 'GET'} ${plain}`
  })
}

describe('addresses that the desk calls', () => {
  const called = Object.entries(sources).flatMap(([file, text]) => callsIn(text).map((call) => ({ file, call })))

  it('are found in its sources', () => {
    expect(called.length).toBeGreaterThan(15)
    expect(called.map(({ call }) => call)).toContain('POST /projects/:/edits')
  })

  it('are all answered by a route of the server', () => {
    const unanswered = called.filter(
      ({ call }) => !served.includes(call) && !served.includes(call.replace(/^[A-Z]+/, '*')),
    )
    expect(unanswered).toEqual([])
  })
})
