import { mkdtempSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { format, resolveConfig } from 'prettier'
import { z } from 'zod'
import { renderSettingsSchema } from '@dusk/store'
import {
  EFFECT_FAMILIES,
  FAMILIES,
  FONTS,
  GENERATOR_FAMILIES,
  GENERATORS,
  MOVES,
  PICTURE_EFFECTS,
  TITLE_FAMILIES,
  TITLE_PRESETS,
  TRANSITIONS,
} from '@dusk/compositor'
import { SOUND_EFFECTS, SOUND_FAMILIES } from '@dusk/sound'
import {
  CLIP_PARAMS,
  CLIP_SOUND_PARAMS,
  COMMANDS,
  formatRate,
  TITLE_PARAMS,
  type Param,
  type PictureInfo,
} from '@dusk/timeline'
import { FORMATS } from '../../packages/media/test/formats/list'
import { MORE_FORMATS, REFUSED } from '../../packages/media/test/formats/more'
import { tryFormat, tryRefused } from '../../packages/media/test/formats/try'
import { ROOT, type Options } from './options'
import { StepFailed } from './steps'

interface JsonSchema {
  type?: string
  const?: unknown
  enum?: unknown[]
  anyOf?: JsonSchema[]
  properties?: Record<string, JsonSchema>
  required?: string[]
  items?: JsonSchema
  additionalProperties?: JsonSchema | boolean
  minimum?: number
  maximum?: number
  multipleOf?: number
  pattern?: string
  format?: string
  default?: unknown
  description?: string
}

/** A field's type in a few words. */
function words(schema: JsonSchema): string {
  if (schema.const !== undefined) return `\`${JSON.stringify(schema.const)}\``
  if (schema.enum) return schema.enum.map((value) => `\`${String(value)}\``).join(' or ')
  if (schema.anyOf) return [...new Set(schema.anyOf.map(words))].join(' or ')
  if (schema.type === 'array') return `list of ${words(schema.items ?? {})}`
  if (schema.type === 'object') {
    if (schema.properties) return `{ ${Object.keys(schema.properties).join(', ')} }`
    return `map to ${typeof schema.additionalProperties === 'object' ? words(schema.additionalProperties) : 'anything'}`
  }
  if (schema.format === 'uuid') return 'UUID'
  const range =
    schema.minimum !== undefined && schema.maximum !== undefined && Math.abs(schema.maximum) < 1e9
      ? ` from ${schema.minimum} to ${schema.maximum}`
      : ''
  const kind = schema.multipleOf === 2 ? 'even integer' : (schema.type ?? 'anything')
  return `${kind}${range}`
}

function fields(schema: z.ZodType): string {
  const json = z.toJSONSchema(schema, { io: 'input' }) as JsonSchema
  const rows = Object.entries(json.properties ?? {})
    .filter(([name]) => name !== 'type')
    .map(
      ([name, value]) =>
        `| \`${name}\` | ${words(value).replaceAll('|', '\\|')} | ${json.required?.includes(name) ? 'yes' : 'no'} |`,
    )
  return `| Field | Type | Needed |\n| --- | --- | --- |\n${rows.join('\n')}`
}

const ROUTES: [string, string][] = [
  ['GET /api/health', 'whether the studio and its database answer'],
  ['GET /api/access', 'whether the browser was let in, and whether a passphrase lets it in; needs neither'],
  [
    'POST /api/access',
    'lets the browser in by the `passphrase` of a studio on the network, eight tries a quarter of an hour',
  ],
  [
    'POST /api/access/links',
    'with the key: `path` of a link that lets one browser in, once, and for how many `minutes` it holds',
  ],
  ['GET /api/hardware', 'encoders in graphics chips that a worker has proved at its start'],
  ['GET /api/disk', 'what takes how much room, by kind and by project, in bytes'],
  [
    'POST /api/disk/free',
    'asks for room to be freed: `what` is `chunks`, `unused`, or `project` with a `projectId` that was put away',
  ],
  ['GET /api/projects', 'projects, the one edited last first'],
  ['POST /api/projects', 'makes one: `name`, `format` (`width`, `height`, `rate`)'],
  ['GET /api/projects/:id', 'the document, its number in the log, states of its sources, files on their way in'],
  ['DELETE /api/projects/:id', 'puts it away'],
  ['POST /api/projects/:id/restore', 'brings one that was put away back'],
  ['GET /api/projects/:id/poster', 'a frame of its first reel, drawn when projects were listed after an edit'],
  ['POST /api/projects/:id/copy', 'makes a copy'],
  ['GET /api/projects/:id/edits?after=N', 'log entries after a number'],
  [
    'POST /api/projects/:id/edits',
    'carries out commands: `windowId`, `edits` (list of `id`, `command`); the answer gives each its number ' +
      'or its refusal',
  ],
  [
    'GET /api/projects/:id/edits/:edit',
    'what one edit changed, as RFC 6902 patches by entity, forward and back; with it the edit is taken back or ' +
      'done again',
  ],
  ['GET /api/projects/:id/history?before=N', 'what was done, newest first, a hundred entries at a time'],
  ['GET /api/projects/:id/revert?seq=N', 'the command that brings the project back to how it was after an edit'],
  [
    'POST /api/projects/:id/import-assets',
    'brings sources of another project in: `fromProject`, `assetIds`; answers with the new id of each',
  ],
  ['GET /api/stock', 'what is in stock; `GET /api/stock/:name` gives one, with `?small` a small picture of it'],
  ['POST /api/projects/:id/stock', 'puts a thing of the stock into the library: `name`, `windowId`'],
  [
    'GET /api/settings/:key',
    'a setting of the person’s; `PATCH /api/settings/:key` with `changes` (list of `path`, `value`) changes single ' +
      'entries, without `value` takes them out',
  ],
  ['GET /api/projects/:id/sources', 'states of sources and pendingImports'],
  ['POST /api/cubes', 'a .cube file as its bytes, kept by its hash; `GET /api/cubes/:hash` gives it back'],
  ['POST /api/fonts', 'a font file as its bytes, kept by its hash; `GET /api/fonts/:hash` gives it back'],
  ['POST /api/sound-files?as=KIND', 'a WAV file that is sent comes back as `flac` or `mp3`'],
  [
    'GET /api/projects/:id/archive',
    'the project as a `.duskreel`; 409 where files are missing, unless `?lacking=1`; ' +
      '`?look=1` only says whether it could be',
  ],
  [
    'POST /api/projects/:id/renders',
    'asks for a render: `reelId`, `name`, `settings`; a range is put on the reel’s frames, and refused past its end',
  ],
  [
    'POST /api/projects/:id/estimates',
    'asks what a render would come to: `reelId`, `settings`; some of its parts are made for that, and kept for it',
  ],
  [
    'GET /api/estimates/:id',
    'what is known of it so far: `bytes` with their `spread`, `seconds`, parts; it goes on as long as it is asked for',
  ],
  ['DELETE /api/estimates/:id', 'ends one'],
  ['GET /api/renders', 'renders, newest first'],
  ['POST /api/renders/:id/pause', 'lays it aside; what was made is kept'],
  ['POST /api/renders/:id/resume', 'goes on with one that was paused, failed or cancelled'],
  ['POST /api/renders/:id/move', 'puts a waiting one behind another, `after`, or first with null'],
  ['GET /api/renders/:id/chunks', 'its chunks, how far they are, and which worker makes them'],
  ['GET /api/renders/:id/chunks/:n/picture', 'the first frame of a chunk that is made'],
  ['GET /api/renders/:id/details', 'streams of the finished file, its bits and its loudness in each second'],
  ['GET /api/renders/:id/strip', 'pictures along a finished film, in one row'],
  ['GET /api/renders/:id/picture', 'a picture out of a finished film, `at` so many seconds'],
  ['GET /api/renders/:id/post-draft', 'what a film says of itself where it is posted, and what the place takes'],
  ['POST /api/renders/:id/posts', '[posts](posting.md) a film: `words` and `thumbnail`; refused before it is sent'],
  ['POST /api/posts/:id/cancel', 'stops the sending; what has arrived stays there'],
  ['POST /api/posts/:id/resume', 'sends the rest of one that was stopped or failed'],
  ['DELETE /api/posts/:id', 'forgets one that has ended; what is posted stays posted'],
  ['POST /api/renders/:id/cancel', 'stops one'],
  ['DELETE /api/renders/:id', 'removes an ended one with its file'],
  ['GET /api/renders/:id/poster', 'a picture out of the finished file'],
  ['GET /api/renders/:id/file', 'the finished file, by range; with `?download` to keep'],
  [
    'GET /api/media/:hash/:file',
    'a stored file by its SHA-256: `original` (by range), `frames` (its frame table), `still` (full size, as PNG), ' +
      '`planes?from=&count=&longest=` (frames at the size of a proxy, 4:2:0 planes one after the other)',
  ],
  [
    'POST /api/media/:hash/near',
    'says which `frame` of a moving picture is looked at while its proxy is made: the piece that holds it is made next',
  ],
  [
    'GET /api/artefacts/:key/:file',
    'a file worked out from sources (proxy, pieces of one that is being made, film strip, sound, waveform); ' +
      'addresses come with the states of sources',
  ],
  [
    'DELETE /api/assets/:id',
    'takes a file that could not be read in off the list, or ends the offer of one that was given for another source',
  ],
  [
    '/api/uploads',
    'resumable uploads by the tus protocol 1.0; metadata `assetId`, `fileName`, `windowId`, and `projectId` ' +
      'unless it is an archive; `replaces` names a source whose file it is ' +
      'or that it is offered for (`givenFor`; see replaceSource)',
  ],
  ['/api/live?project=:id', 'WebSocket: says that edits, sources or renders changed'],
]

/** Size, rate and transparency of a picture, in a few words. */
function pictureWords({ width, height, variable, rate, alpha }: PictureInfo): string {
  const pace = variable ? 'varying rate' : rate && `${formatRate(rate)}/s`
  return [`${width} × ${height}`, pace, alpha && 'transparency'].filter(Boolean).join(', ')
}

/** Writes docs/formats.md: every format is made, read in and described anew. */
async function formats(): Promise<void> {
  const dir = mkdtempSync(join(tmpdir(), 'dusk-formats-'))
  const rows: string[] = []
  for (const format of [...FORMATS, ...MORE_FORMATS]) {
    const { asset, metadata } = await tryFormat(format, dir)
    const sound = asset.sounds[0] && `${asset.sounds[0].channels} channels`
    const read = [asset.picture && pictureWords(asset.picture), sound].filter(Boolean).join('; ')
    const name = format.name.split('.').at(-1)
    rows.push(`| \`${name}\` | ${format.words} | ${read} | ${metadata.notes.join(' ') || '—'} |`)
  }
  const refused: string[] = []
  for (const one of REFUSED) refused.push(`| \`${one.name.split('.').at(-1)}\` | ${await tryRefused(one, dir)} |`)
  rmSync(dir, { recursive: true, force: true })
  await write(
    'docs/formats.md',
    `# Formats that are read

Written by \`./dusk docs\`: each of these ${FORMATS.length + MORE_FORMATS.length} files is made by ffmpeg with a number
drawn in each picture, read in as an upload is, and prepared for previewing. The same list is a test
(\`packages/media/test/formats.test.ts\`; all of it with \`./dusk test --long\`): every number is where the frame table
says, read in order and sought. What a file is comes from its bytes, never from its name. HEIC pictures are
read besides, by Debian's libheif-examples.

| Name | Codecs | Read as | What the person is told |
| --- | --- | --- | --- |
${rows.join('\n')}

## Not read

| Name | What the person is told |
| --- | --- |
${refused.join('\n')}
`,
  )
}

async function write(name: string, text: string): Promise<void> {
  const path = join(ROOT, name)
  writeFileSync(path, await format(text, { ...(await resolveConfig(path)), parser: 'markdown' }))
  console.log(`${name} written.`)
}

/** What a setting takes, in a few words. */
function settingWords(param: Param): string {
  if (param.kind === 'number' || param.kind === 'point')
    return `${param.min} … ${param.max}${param.unit ? ` ${param.unit}` : ''}`
  if (param.kind === 'choice') return param.options.map((option) => `\`${option.value}\``).join(', ')
  if (param.kind === 'file') return `a ${param.ending} file`
  return { colour: 'a colour', switch: 'on or off', text: 'text', curve: 'points of a curve' }[param.kind]
}

function settingsTable(params: readonly Param[]): string {
  const rows = params.map((param) => [
    `\`${param.key}\``,
    param.group ?? '',
    param.label,
    settingWords(param),
    JSON.stringify(param.default),
    param.fixed ? 'no' : 'yes',
  ])
  const head = ['Setting', 'Group', 'Shown as', 'Takes', 'Default', 'Keyframes']
  return [head, head.map(() => '---'), ...rows].map((row) => `| ${row.join(' | ')} |`).join('\n')
}

/** Writes docs/gallery.md from the lists that drive the galleries and the details. */
async function gallery(): Promise<void> {
  const own = (params: readonly Param[]) => params.map((param) => `\`${param.key}\``).join(', ')
  const families = Object.entries(FAMILIES).map(
    ([id, name]) =>
      `### ${name}\n\n| Name | Id | What is seen | Settings |\n| --- | --- | --- | --- |\n${TRANSITIONS.filter(
        (kind) => kind.family === id,
      )
        .map((kind) => `| ${kind.name} | \`${kind.id}\` | ${kind.hint} | ${own(kind.params)} |`)
        .join('\n')}`,
  )
  const moves = MOVES.map(
    (kind) =>
      `| ${kind.name} | \`${kind.id}\` | ${kind.hint} | ${kind.use === 'pass' ? 'comes and goes' : 'while shown'} |`,
  )
  const shapes = GENERATORS.map(
    (kind) => `| ${kind.name} | \`${kind.id}\` | ${GENERATOR_FAMILIES[kind.family]} | ${kind.hint} |`,
  )
  const titles = Object.entries(TITLE_FAMILIES).map(
    ([id, name]) =>
      `- ${name}: ${TITLE_PRESETS[id as keyof typeof TITLE_FAMILIES].map((preset) => preset.name).join(', ')}`,
  )
  const pictures = PICTURE_EFFECTS.map((kind) => {
    const presets = kind.presets.map(({ name }) => name).join(', ')
    const family = EFFECT_FAMILIES[kind.family]
    return `| ${kind.name} | \`${kind.id}\` | ${family} | ${kind.hint} | ${own(kind.params)} | ${presets} |`
  })
  const sounds = SOUND_EFFECTS.map((kind) => {
    const family = SOUND_FAMILIES.find(({ id }) => id === kind.family)!.name
    const presets = kind.presets.map(({ name }) => name).join(', ')
    return `| ${kind.name} | \`${kind.id}\` | ${family} | ${kind.hint} | ${own(kind.params)} | ${presets} |`
  })
  await write(
    'docs/gallery.md',
    `# Transitions, titles, shapes, effects and settings

Written by \`./dusk docs\` from the lists that drive the galleries, the details panel and the checks.

## Transitions

${families.join('\n\n')}

## Ready-made titles

${titles.join('\n')}

## Moves of titles

| Name | Id | What is seen | Used |
| --- | --- | --- | --- |
${moves.join('\n')}

## Shapes, callouts, stickers and backgrounds

| Name | Id | Family | What it is |
| --- | --- | --- | --- |
${shapes.join('\n')}

## Fonts

${FONTS.map((font) => font.family).join(', ')}; for other scripts Noto Sans in Cyrillic, Greek, Vietnamese,
Arabic, Hebrew, Devanagari and Thai, and Noto Color Emoji. All come as npm packages of Fontsource and are under the
SIL Open Font License 1.1.

## Picture effects

Each goes on a clip, a track, the reel or an adjustment clip, and has a strength.

| Name | Id | Family | What it does | Settings | Ready-made |
| --- | --- | --- | --- | --- | --- |
${pictures.join('\n')}

## Sound effects

| Name | Id | Family | What it does | Settings | Presets |
| --- | --- | --- | --- | --- | --- |
${sounds.join('\n')}

## Settings of a sound

${settingsTable(CLIP_SOUND_PARAMS)}

## Settings of a picture

${settingsTable(CLIP_PARAMS)}

## Settings of a title

${settingsTable(TITLE_PARAMS)}
`,
  )
}

/** Writes docs/http-api.md from the schemas that the server checks requests with. */
async function httpApi(): Promise<void> {
  const commands = Object.entries(COMMANDS).map(([name, kind]) => `### ${name}\n\n${fields(kind.schema)}`)
  const text = `# The HTTP API

Written by \`./dusk docs\` from the schemas that check requests. Bodies are JSON. Refusals are problem details
(RFC 9457) with \`title\`, \`detail\` and, where a field is at fault, \`fields\` with their paths.

Browsers that were let in have a cookie. Programs send the key of the data folder, which is in its file \`key\`:
\`Authorization: Bearer KEY\`. Anybody else is answered 401. Requests of other sites' pages are turned away in any case.

| Route | Does |
| --- | --- |
${ROUTES.map(([route, does]) => `| \`${route}\` | ${does} |`).join('\n')}

## Settings of a render

${fields(renderSettingsSchema)}

## Commands

Times are ticks, 705 600 000 a second. A command is \`{ "type": …, … }\`.

${commands.join('\n\n')}
`
  await write('docs/http-api.md', text)
}

/** Pages that are written from the code, by the names of their files. */
const PAGES: Record<string, () => Promise<void>> = { 'http-api': httpApi, gallery, formats }

/** Writes them, all or those that are named. */
export async function run({ positionals }: Options): Promise<void> {
  const wanted = positionals.length > 0 ? positionals : Object.keys(PAGES)
  for (const name of wanted) {
    const page = PAGES[name]
    if (!page)
      throw new StepFailed(`No page ${name} is written from code. There are: ${Object.keys(PAGES).join(', ')}.`)
    await page()
  }
}
