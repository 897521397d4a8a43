import { spawn, spawnSync } from 'node:child_process'
import { existsSync, mkdirSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { availableParallelism, tmpdir } from 'node:os'
import { join } from 'node:path'
import { buildRenderer, buildStudio } from './build'
import { browserState } from './enter'
import { freePort } from './cluster'
import { makeStock } from './stock'
import { ROOT, type Options } from './options'
import { end, localStudio, openDatabase, serviceEnv, startBoard, startStudio, startWorker, waitFor } from './processes'
import { run as runProgram, step } from './steps'

/** Counts from vitest's and Playwright's JSON reports. */
interface Counts {
  passed: number
  failed: number
}

/** Runs a program whose words are for the person to see. @returns whether it ended well */
function show(command: string, args: string[], env: NodeJS.ProcessEnv = process.env): Promise<boolean> {
  return new Promise((resolve, reject) => {
    const child = spawn(command, args, { cwd: ROOT, stdio: 'inherit', env })
    child.once('error', reject)
    child.once('close', (code) => resolve(code === 0))
  })
}

function report<T>(path: string): T | null {
  return existsSync(path) ? (JSON.parse(readFileSync(path, 'utf8')) as T) : null
}

async function chores(total: Counts): Promise<void> {
  await step(
    'Types of the studio prepared',
    async () => void spawnSync('npm', ['run', 'prepare:studio'], { cwd: ROOT }),
  )
  // Each is the work of one thread: beside each other all processors are busy to the end.
  await Promise.all(
    ['lint', 'format:check', 'typecheck:packages', 'typecheck:page', 'typecheck:server'].map((name) =>
      step(name, async () => {
        try {
          await runProgram(name, 'npm', ['run', '--silent', name], { cwd: ROOT })
          total.passed++
        } catch (error) {
          total.failed++
          console.log(`${(error as Error).message}\n${name} found something; ./dusk format mends what is only form.`)
        }
      }),
    ),
  )
}

async function unit(total: Counts, env: NodeJS.ProcessEnv, only: readonly string[]): Promise<void> {
  const out = join(ROOT, 'test-results/unit.json')
  const args = ['run', '--reporter=default', '--reporter=json', `--outputFile=${out}`, ...only]
  const ok = await show('npx', ['vitest', ...args], env)
  const counts = report<{ numPassedTests: number; numFailedTests: number; numFailedTestSuites: number }>(out)
  total.passed += counts?.numPassedTests ?? 0
  total.failed += counts?.numFailedTests ?? 0
  if (!ok && (counts?.numFailedTests ?? 0) === 0) total.failed++
}

/** What browser tests need before they can begin. It is made once. */
function built(): Promise<unknown> {
  return (building ??= Promise.all([buildStudio(), makeStock()]))
}
let building: Promise<unknown> | null = null

async function browser(
  total: Counts,
  env: NodeJS.ProcessEnv,
  data: string,
  databaseUrl: string,
  only: readonly string[],
): Promise<void> {
  await built()
  const studio = startStudio(env)
  const client = localStudio(data, Number(env.PORT))
  await waitFor(client, studio)
  const session = join(data, 'session.json')
  writeFileSync(session, JSON.stringify(await browserState(client)))
  const worker = startWorker(env)
  const board = startBoard(env)
  try {
    const given = { DUSK_URL: client.origin, DUSK_SESSION: session, DUSK_DATA: data, DATABASE_URL: databaseUrl }
    // A page waits often enough for the worker behind it that another can go on meanwhile.
    await playwright(total, 'together', Math.min(2, availableParallelism()), { ...env, ...given }, only)
    await playwright(total, 'alone', 1, { ...env, ...given }, only)
  } finally {
    await Promise.all([end(worker), end(studio), end(board)])
  }
}

/** Runs the specs of one of Playwright's projects, so many at once. */
async function playwright(
  total: Counts,
  project: string,
  workers: number,
  env: NodeJS.ProcessEnv,
  only: readonly string[],
): Promise<void> {
  const args = ['--project', project, '--workers', String(workers), '--pass-with-no-tests', ...only]
  const ok = await show('npx', ['playwright', 'test', ...args], { ...env, DUSK_STAGE: project })
  const counts = report<{ stats: { expected: number; unexpected: number; flaky: number } }>(
    join(ROOT, `test-results/browser-${project}.json`),
  )
  total.passed += counts?.stats.expected ?? 0
  total.failed += (counts?.stats.unexpected ?? 0) + (counts?.stats.flaky ?? 0)
  if (!ok && (counts?.stats.unexpected ?? 0) === 0) total.failed++
}

/** A data folder with a database for one stage: what the unit tests leave behind is no business of the browser's. */
async function withData(
  stage: (given: { env: NodeJS.ProcessEnv; data: string; url: string }) => Promise<void>,
): Promise<void> {
  const data = mkdtempSync(join(tmpdir(), 'dusk-test-'))
  const cluster = await openDatabase(data, false)
  try {
    await stage({ env: serviceEnv(cluster, data, await freePort(), await freePort()), data, url: cluster.url })
  } finally {
    await cluster.stop()
    rmSync(data, { recursive: true, force: true })
  }
}

/** Sets everything up and runs every test, the quick ones first. */
export async function run(options: Options): Promise<void> {
  const total: Counts = { passed: 0, failed: 0 }
  rmSync(join(ROOT, 'test-results'), { recursive: true, force: true })
  mkdirSync(join(ROOT, 'test-results'), { recursive: true })
  await buildRenderer()
  if (!options.only) await chores(total)
  // A build is mostly the work of one thread: it goes on beside the unit tests.
  if (options.only !== 'unit') built().catch(() => {})
  // Whole tables instead of samples, minutes instead of seconds, and many more random histories.
  const long = options.long ? { DUSK_RUNS: '5000', DUSK_LONG: '1' } : {}
  // The unit tests are not a production run: Vue's warnings are wanted there.
  const asked = options.only === 'unit' ? options.positionals : []
  if (options.only !== 'browser')
    await withData(async ({ env }) => unit(total, { ...env, ...long, NODE_ENV: 'test' }, asked))
  if (options.only !== 'unit')
    await withData(({ env, data, url }) => browser(total, { ...env, ...long }, data, url, options.positionals))
  console.log(`${total.passed} passed, ${total.failed} failed`)
  process.exit(total.failed > 0 || total.passed === 0 ? 1 : 0)
}
