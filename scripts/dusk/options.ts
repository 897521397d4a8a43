import { resolve } from 'node:path'
import { parseArgs } from 'node:util'
import { StepFailed } from './steps'

/** The project's root folder. */
export const ROOT = resolve(import.meta.dirname, '../..')

/** What was typed after `./dusk`. */
export function parseOptions(command: string, args: string[]) {
  try {
    const { values, positionals } = parseArgs({
      args,
      allowPositionals: true,
      options: {
        port: { type: 'string' },
        data: { type: 'string' },
        'no-demo': { type: 'boolean', default: false },
        long: { type: 'boolean', default: false },
        accept: { type: 'boolean', default: false },
        only: { type: 'string' },
        size: { type: 'string' },
        range: { type: 'string' },
        rate: { type: 'string' },
        quality: { type: 'string' },
        loudness: { type: 'string' },
        fit: { type: 'string' },
        speed: { type: 'string' },
        copy: { type: 'boolean' },
        hardware: { type: 'string' },
        format: { type: 'string' },
        purpose: { type: 'string' },
        reel: { type: 'string' },
        title: { type: 'string' },
        description: { type: 'string' },
        host: { type: 'string' },
        name: { type: 'string', multiple: true },
        cert: { type: 'string' },
        certkey: { type: 'string' },
        media: { type: 'string' },
        database: { type: 'string' },
        json: { type: 'boolean', default: false },
      },
    })
    const port = Number(values.port ?? 4870)
    if (!Number.isInteger(port) || port < 1 || port > 65_535)
      throw new StepFailed(`--port must be a number from 1 to 65535, not ${values.port}.`)
    return {
      ...values,
      command,
      port,
      data: resolve(ROOT, values.data ?? process.env.DUSK_DATA ?? 'data'),
      positionals,
    }
  } catch (error) {
    if (error instanceof StepFailed) throw error
    throw new StepFailed(`${(error as Error).message}. ./dusk help lists what can be said.`)
  }
}

export type Options = ReturnType<typeof parseOptions>
