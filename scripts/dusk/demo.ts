import { spawn } from 'node:child_process'
import { createHash } from 'node:crypto'
import { existsSync, mkdirSync, readdirSync, readFileSync, renameSync, rmSync, statSync } from 'node:fs'
import { join } from 'node:path'
import { createInterface } from 'node:readline'
import postgres from 'postgres'
import { demoProjects } from '@dusk/demo'
import type { Project } from '@dusk/timeline'
import type { StudioClient } from './client'
import { ROOT } from './options'
import { StepFailed } from './steps'

function sourceHash(): string {
  const hash = createHash('sha256')
  const visit = (folder: string) => {
    for (const name of readdirSync(folder).sort()) {
      const path = join(folder, name)
      if (statSync(path).isDirectory()) visit(path)
      else hash.update(name).update(readFileSync(path))
    }
  }
  visit(join(ROOT, 'demo/src'))
  return hash.digest('hex').slice(0, 16)
}

/** Makes the demo's media once; later calls find them. Returns their folder. */
export async function demoMedia(): Promise<string> {
  const base = join(ROOT, 'node_modules/.cache/dusk-demo')
  const folder = join(base, sourceHash())
  if (existsSync(folder)) return folder
  mkdirSync(base, { recursive: true })
  const scratch = `${folder}.part`
  rmSync(scratch, { recursive: true, force: true })
  mkdirSync(scratch)
  const parts = 2
  const state = Array.from({ length: parts }, () => [0, 1])
  const began = Date.now()
  const show = () => {
    const [done, all] = state.reduce(([a, b], [c, d]) => [a! + c!, b! + d!], [0, 0])
    const line = `Drawing the demo: ${Math.round((done! / all!) * 100)} % (once, about a minute)`
    if (process.stdout.isTTY) process.stdout.write(`\r${line}`)
  }
  if (!process.stdout.isTTY) console.log('Drawing the demo (once, about a minute)')
  await Promise.all(
    state.map(
      (entry, part) =>
        new Promise<void>((resolve, reject) => {
          const child = spawn(
            'node',
            ['--import', 'tsx', join(ROOT, 'demo/src/main.ts'), scratch, String(part), String(parts)],
            { cwd: ROOT, stdio: ['ignore', 'pipe', 'inherit'] },
          )
          createInterface({ input: child.stdout }).on('line', (line) => {
            const [done, all] = line.split(' ').map(Number)
            entry[0] = done!
            entry[1] = all!
            show()
          })
          child.once('close', (code) =>
            code === 0
              ? resolve()
              : reject(
                  new StepFailed(
                    'Drawing the demo failed; its own words are above. Start with --no-demo to do without.',
                  ),
                ),
          )
        }),
    ),
  )
  if (process.stdout.isTTY) process.stdout.write('\r')
  console.log(`Drew the demo — ${((Date.now() - began) / 1000).toFixed(0)} s                              `)
  renameSync(scratch, folder)
  return folder
}

/** Loads the demo into an empty database. */
export async function loadDemo(studio: StudioClient, databaseUrl: string): Promise<void> {
  const sql = postgres(databaseUrl, { max: 1 })
  try {
    const [{ count }] = (await sql`select count(*)::int as count from projects`) as unknown as [{ count: number }]
    const [loaded] = await sql`select 1 from settings where key = 'demoLoaded'`
    if (count > 0 || loaded) return
    const folder = await demoMedia()
    const began = Date.now()
    for (const demo of demoProjects()) {
      const { id } = await studio.json<{ id: string }>('/api/projects', 'POST', {
        name: demo.name,
        format: demo.format,
      })
      const assets = new Map<string, string>()
      for (const name of demo.files) assets.set(name, await studio.upload(id, join(folder, name)))
      const project = await whenTaken(studio, id, new Set(assets.values()))
      const commands = demo.arrange(project, (name) => assets.get(name)!)
      await studio.json(`/api/projects/${id}/edits`, 'POST', {
        windowId: 'demo',
        edits: commands.map((command) => ({ id: crypto.randomUUID(), command })),
      })
    }
    await sql`insert into settings (key, value) values ('demoLoaded', 'true') on conflict do nothing`
    console.log(`Loaded the demo — ${((Date.now() - began) / 1000).toFixed(0)} s; its previews are still being made`)
  } finally {
    await sql.end()
  }
}

/** Waits until every source stands in the document. */
export async function whenTaken(studio: StudioClient, id: string, wanted: Set<string>) {
  for (let i = 0; i < 600; i++) {
    const { project, pendingImports } = await studio.json<{
      project: Project
      pendingImports: { state: string; fileName: string; message: string }[]
    }>(`/api/projects/${id}`)
    const failed = pendingImports.find((entry) => entry.state === 'failed')
    if (failed) throw new StepFailed(`${failed.fileName}: ${failed.message}`)
    if ([...wanted].every((asset) => project.assets[asset])) return project
    await new Promise((resolve) => setTimeout(resolve, 300))
  }
  throw new StepFailed('The files were not read in within three minutes. Is the worker running? Its words are above.')
}
