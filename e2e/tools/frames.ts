import { readFileSync, writeFileSync } from 'node:fs'
import { Compositor } from '@dusk/compositor'
import { FolderStorage } from '@dusk/media'
import { connect, ProjectLog } from '@dusk/store'
import { FramePlanner, type OutputSize } from '@dusk/timeline'
import { sourceBook } from '@dusk/renderer/jobs/sourceBook'
import { drawFrame } from '@dusk/renderer/render/drawFrame'
import { nodeEngine } from '@dusk/renderer/render/engine'
import { FramePool } from '@dusk/renderer/render/framePool'

/**
 * `frames.ts REQUEST.json OUT.rgba`: draws frames with the renderer's own code, before encoding, and writes their RGBA
 * one after the other. The request names project, reel, size and ticks.
 */
const [requestPath, out] = process.argv.slice(2)
const request = JSON.parse(readFileSync(requestPath!, 'utf8')) as {
  projectId: string
  reelId: string
  size: OutputSize
  ticks: number[]
}
const connection = connect(process.env.DATABASE_URL!, 2)
const storage = new FolderStorage(process.env.DUSK_MEDIA!)
const { project } = await new ProjectLog(connection).read(request.projectId)
const book = await sourceBook(connection, project)
const compositor = new Compositor(await nodeEngine())
const pool = new FramePool(compositor.engine, storage, book)
const planner = new FramePlanner(project, request.reelId)
const frames: Buffer[] = []
for (const tick of request.ticks) {
  const picture = await drawFrame(planner.plan(tick, request.size), { compositor, pool, book, storage })
  frames.push(Buffer.from(picture.pixels()))
}
writeFileSync(out!, Buffer.concat(frames))
pool.close()
await connection.close()
