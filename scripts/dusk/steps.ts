import { spawn, type SpawnOptions } from 'node:child_process'

/** A step that failed: which one, why, and what to do. */
export class StepFailed extends Error {}

/** Runs a program to its end; its output is shown only when it fails. */
export function run(
  what: string,
  command: string,
  args: string[],
  options: SpawnOptions & { advice?: string } = {},
): Promise<string> {
  return new Promise((resolve, reject) => {
    const child = spawn(command, args, { stdio: ['ignore', 'pipe', 'pipe'], ...options })
    let text = ''
    child.stdout?.on('data', (part) => (text += part))
    child.stderr?.on('data', (part) => (text += part))
    child.once('error', (error) => reject(new StepFailed(`${what} failed: ${error.message}. ${options.advice ?? ''}`)))
    child.once('close', (code) => {
      if (code === 0) return resolve(text)
      const end = text.trim().split('\n').slice(-40).join('\n')
      reject(new StepFailed(`${what} failed (code ${code}). The end of what it said:\n${end}\n${options.advice ?? ''}`))
    })
  })
}

/** Says what is being done and how long it took. */
export async function step<T>(what: string, work: () => Promise<T>): Promise<T> {
  const began = Date.now()
  const value = await work()
  const seconds = (Date.now() - began) / 1000
  console.log(seconds > 0.5 ? `${what} — ${seconds.toFixed(1)} s` : what)
  return value
}
