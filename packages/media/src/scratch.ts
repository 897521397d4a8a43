import { createHash } from 'node:crypto'
import { mkdir, mkdtemp, readdir, rm } from 'node:fs/promises'
import { hostname, tmpdir, userInfo } from 'node:os'
import { join } from 'node:path'
import { processBeginning } from './processBeginning'

/** A short mark of a text that can stand in a file's name. */
const mark = (text: string) => createHash('sha256').update(text).digest('hex').slice(0, 12)
const machine = mark(hostname())

function nameOf(pid: number): string | null {
  const began = processBeginning(pid)
  return began === null ? null : `${machine}-${pid}-${mark(began)}`
}

let own: string | null = null
/** Name of the folder that this process keeps its work files in; it tells machine and process. */
export const ownScratchName = () => (own ??= nameOf(process.pid) ?? `${machine}-${process.pid}-0`)

/** Whether a folder of work files was a process's of this machine that is gone, as after it was killed. */
export function isLeftScratch(name: string): boolean {
  const [, host, pid] = /^([0-9a-f]{12})-(\d+)-[0-9a-f]+$/.exec(name) ?? []
  return host === machine && name !== ownScratchName() && nameOf(Number(pid)) !== name
}

/** Removes work files of this machine's processes that are gone. @param folder of all work files */
export async function clearLeftScratch(folder: string): Promise<void> {
  for (const name of await readdir(folder).catch(() => []))
    if (isLeftScratch(name)) await rm(join(folder, name), { recursive: true, force: true })
}

/** Where processes of this user on this machine keep short-lived files that belong to no storage. */
export const passingFiles = () => join(tmpdir(), `dusk-work-${userInfo().uid}`)

/**
 * A folder for files that are read back at once; it is gone when `work` has ended. One whose process was killed is
 * cleared like other work files.
 */
export async function inPassingFolder<Result>(work: (folder: string) => Promise<Result>): Promise<Result> {
  const own = join(passingFiles(), ownScratchName())
  await mkdir(own, { recursive: true })
  const folder = await mkdtemp(join(own, 'files-'))
  try {
    return await work(folder)
  } finally {
    await rm(folder, { recursive: true, force: true })
  }
}
