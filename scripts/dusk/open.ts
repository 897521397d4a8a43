import { spawn } from 'node:child_process'
import { join } from 'node:path'
import { StudioClient } from './client'
import { keyOf } from './keyFile'
import type { Options } from './options'
import { runningProcess } from './pidFile'
import { readState } from './stateFile'
import { StepFailed } from './steps'

/** Prints a link that lets one browser into the studio that runs with this data folder, and opens it. */
export async function run(options: Options): Promise<void> {
  const { data } = options
  const state = runningProcess(join(data, 'dusk.pid')) ? readState(data) : null
  if (!state) throw new StepFailed(`No studio runs with the data folder ${data}. Start it with ./dusk start.`)
  const client = new StudioClient({ ...state.reach, key: keyOf(data) })
  await showLink(client, state.shown)
}

/** Says where the studio is, and with what link a browser is let in. */
export async function showLink(client: StudioClient, shown: string): Promise<void> {
  const { path, minutes } = await client.link()
  console.log(
    `\nDusk Reel is at ${shown}\nA browser is let in by this link, once and within ${minutes} minutes:\n\n` +
      `  ${shown}${path}\n\n./dusk open prints another.`,
  )
  openInBrowser(`${shown}${path}`)
}

/** Opens an address where somebody sits in front of a desktop; anywhere else the printed link has to do. */
function openInBrowser(address: string): void {
  const { DISPLAY, WAYLAND_DISPLAY } = process.env
  if (!process.stdout.isTTY || !(DISPLAY || WAYLAND_DISPLAY) || process.getuid?.() === 0) return
  spawn('xdg-open', [address], { detached: true, stdio: 'ignore' })
    .on('error', () => {})
    .unref()
}
