import { StepFailed } from './steps'
import { parseOptions } from './options'

/** Commands that `./dusk` hands on, each in its own file. */
const COMMANDS: Record<string, () => Promise<{ run(options: ReturnType<typeof parseOptions>): Promise<void> }>> = {
  start: () => import('./start'),
  dev: () => import('./dev'),
  stop: () => import('./stop'),
  open: () => import('./open'),
  passphrase: () => import('./passphrase'),
  status: () => import('./status'),
  worker: () => import('./worker'),
  render: () => import('./render'),
  test: () => import('./test'),
  bench: () => import('./bench'),
  shots: () => import('./shots'),
  docs: () => import('./docs'),
  golden: () => import('./golden'),
  lint: () => import('./chores'),
  format: () => import('./chores'),
  typecheck: () => import('./chores'),
}

const [name = '', ...rest] = process.argv.slice(2)
try {
  const options = parseOptions(name, rest)
  await (await COMMANDS[name]!()).run(options)
} catch (error) {
  if (error instanceof StepFailed) {
    console.error(`\n${error.message}`)
    process.exit(1)
  }
  throw error
}
