import { expect, test } from '@playwright/test'
import fc from 'fast-check'
import { z } from 'zod'
import { check, COMMANDS, openDocument } from '@dusk/timeline'
import { Studio } from './tools/api'

/** Bodies sent to the log. */
const BODIES = process.env.DUSK_LONG ? 5000 : 1500

interface JsonSchema {
  const?: unknown
  enum?: unknown[]
  anyOf?: JsonSchema[]
  oneOf?: JsonSchema[]
  type?: string
  format?: string
  pattern?: string
  properties?: Record<string, JsonSchema>
  required?: string[]
  items?: JsonSchema
  prefixItems?: JsonSchema[]
  additionalProperties?: JsonSchema | boolean
  minimum?: number
  maximum?: number
  minItems?: number
}

/** Values that fit a schema, with ids drawn from those that are there, so that commands reach what they name. */
function fitting(schema: JsonSchema, ids: readonly string[]): fc.Arbitrary<unknown> {
  if (schema.const !== undefined) return fc.constant(schema.const)
  if (schema.enum) return fc.constantFrom(...schema.enum)
  const any = schema.anyOf ?? schema.oneOf
  if (any) return fc.oneof(...any.map((part) => fitting(part, ids)))
  switch (schema.type) {
    case 'null':
      return fc.constant(null)
    case 'boolean':
      return fc.boolean()
    case 'integer':
    case 'number': {
      const [min, max] = [Math.max(schema.minimum ?? -1e12, -1e12), Math.min(schema.maximum ?? 1e12, 1e12)]
      const whole = fc.integer({
        min: Math.ceil(Math.max(min, -(2 ** 31))),
        max: Math.floor(Math.min(max, 2 ** 31 - 1)),
      })
      return schema.type === 'integer' ? whole : fc.double({ min, max, noNaN: true })
    }
    case 'string':
      if (schema.format === 'uuid')
        return fc.oneof({ weight: 4, arbitrary: fc.constantFrom(...ids) }, { weight: 1, arbitrary: fc.uuid() })
      if (schema.pattern?.includes('#')) return fc.constantFrom('#16131c', '#ffffff')
      return fc.string({ minLength: 1, maxLength: 12 })
    case 'array': {
      if (schema.prefixItems) return fc.tuple(...schema.prefixItems.map((part) => fitting(part, ids)))
      const minLength = schema.minItems ?? 0
      return fc.array(fitting(schema.items ?? {}, ids), { minLength, maxLength: Math.max(4, minLength) })
    }
    case 'object': {
      if (!schema.properties) {
        const values =
          typeof schema.additionalProperties === 'object' ? fitting(schema.additionalProperties, ids) : fc.constant(1)
        return fc.dictionary(fc.constantFrom(...ids), values, { maxKeys: 2 })
      }
      const fields = Object.fromEntries(
        Object.entries(schema.properties).map(([name, part]) => [name, fitting(part, ids)]),
      )
      return fc.record(fields, { requiredKeys: schema.required ?? [] })
    }
  }
  return fc.anything({ maxDepth: 1 }).filter((value) => JSON.stringify(value) !== undefined)
}

/** A body that mostly fits, with something put wrong in it now and then. */
function bent(body: unknown, spoil: { path: number; value: unknown; drop: boolean }): unknown {
  const places: { holder: Record<string, unknown>; key: string }[] = []
  const visit = (value: unknown) => {
    if (typeof value !== 'object' || value === null) return
    for (const key of Object.keys(value)) {
      places.push({ holder: value as Record<string, unknown>, key })
      visit((value as Record<string, unknown>)[key])
    }
  }
  const copy = structuredClone(body)
  visit(copy)
  const place = places[spoil.path % Math.max(places.length, 1)]
  if (!place) return copy
  if (spoil.drop) delete place.holder[place.key]
  else place.holder[place.key] = spoil.value
  return copy
}

test('whatever is sent to the edit log is carried out, refused in words, or answered with the field at fault', async ({
  baseURL,
}) => {
  const studio = new Studio(baseURL!)
  const id = await studio.createProject('Odd bodies', 640, 360, { num: 25, den: 1 })
  const { project } = await studio.call<{
    project: Parameters<typeof openDocument>[0] & { tracks: object; reels: object }
  }>(`/projects/${id}`)
  const ids = [
    id,
    ...Object.keys(project.tracks),
    ...Object.keys(project.reels),
    ...Array.from({ length: 12 }, (_, n) => `00000000-0000-4000-8000-${String(n).padStart(12, '0')}`),
  ]
  const commands = fc.oneof(
    ...Object.values(COMMANDS).map((kind) => fitting(z.toJSONSchema(kind.schema, { io: 'input' }) as JsonSchema, ids)),
  )
  const odd = fc.oneof(
    fc.constantFrom<unknown>(null, '', -1, 0.5, 1e300, [], {}, true, '\u0000', 'x'.repeat(5000), '__proto__'),
    fc.string(),
  )
  const spoil = fc.record({ path: fc.nat(200), value: odd, drop: fc.boolean() })
  const bodies = fc.record({ command: commands, id: fc.uuid(), spoil: fc.option(spoil, { freq: 2 }) }).map((made) => {
    const body = { windowId: 'test', edits: [{ id: made.id, command: made.command }] }
    return made.spoil ? bent(body, made.spoil) : body
  })
  const seen = new Map<string, number>()
  const send = async (body: unknown) => {
    const text = JSON.stringify(body)
    const response = await fetch(`${baseURL}/api/projects/${id}/edits`, {
      method: 'POST',
      headers: { ...studio.headers, 'content-type': 'application/json' },
      body: text,
    })
    const answer = (await response.json()) as {
      fields?: { path: string }[]
      detail?: string
      outcomes?: { refused?: string; seq?: number }[]
    }
    const kind = response.ok ? (answer.outcomes![0]!.refused ? 'refused' : 'done') : String(response.status)
    seen.set(kind, (seen.get(kind) ?? 0) + 1)
    if (response.status >= 500) throw new Error(`${response.status} for ${text.slice(0, 2000)}`)
    if (response.status === 422 && !answer.fields?.[0]) throw new Error(`no field is named for ${text.slice(0, 2000)}`)
    if (!response.ok && !answer.detail) throw new Error(`no words for ${text.slice(0, 2000)}`)
  }
  const all = fc.sample(bodies, { numRuns: BODIES, seed: 20261125 })
  for (let i = 0; i < all.length; i += 8) await Promise.all(all.slice(i, i + 8).map(send))
  for (const text of ['', '{', '[]', '"', '{"edits":[]}', 'null']) {
    const response = await fetch(`${baseURL}/api/projects/${id}/edits`, {
      method: 'POST',
      headers: { ...studio.headers, 'content-type': 'application/json' },
      body: text,
    })
    expect(response.status).toBeGreaterThanOrEqual(400)
    expect(response.status).toBeLessThan(500)
  }
  console.log(`      ${[...seen].map(([kind, count]) => `${kind} ${count}`).join(', ')}`)
  // All three must have happened, or the bodies say nothing; and the document kept every rule.
  expect(seen.get('done')).toBeGreaterThan(BODIES / 50)
  expect(seen.get('refused')).toBeGreaterThan(BODIES / 5)
  expect(seen.get('422')).toBeGreaterThan(BODIES / 5)
  const after = await studio.call<{ project: unknown }>(`/projects/${id}`)
  expect(check(openDocument(after.project))).toEqual([])
})

test('odd numbers in addresses are answered with the field at fault', async ({ baseURL }) => {
  const studio = new Studio(baseURL!)
  const id = await studio.createProject('Odd numbers', 640, 360, { num: 25, den: 1 })
  const odd = ['-1', '0.5', '99999999999', '1e300', 'x', '', '%00', '1%27']
  for (const address of ['edits?after=', 'history?before=', 'revert?seq='])
    for (const number of odd) {
      const response = await fetch(`${baseURL}/api/projects/${id}/${address}${number}`, { headers: studio.headers })
      // Nothing is the number nought, where nought has a meaning.
      const nought = number === '' && response.ok
      expect([address, number, nought || response.status]).toEqual([address, number, nought || 422])
      if (!nought) expect((await response.json()).fields[0].path).toBe(address.slice(address.indexOf('?') + 1, -1))
    }
})
