import { and, eq } from 'drizzle-orm'
import { Compositor } from '@dusk/compositor'
import { announce, projects, type Job } from '@dusk/store'
import { FramePlanner, reelLength, reelsOf, type FramePlan, type Project } from '@dusk/timeline'
import { savePicture, type Storage } from '@dusk/media'
import { loadCubes } from '../render/cubes'
import { drawFrame } from '../render/drawFrame'
import { nodeEngine } from '../render/engine'
import { FramePool } from '../render/framePool'
import { checkSources } from '../render/renderReel'
import type { SourceBook } from '../render/sources'
import type { Context } from './context'
import { sourceBook } from './sourceBook'

/** Pixels of a poster's longer side. */
const LONGEST = 640
/** Where in a reel its poster is looked for, as parts of its length. */
const PLACES = [0.3, 0.5, 0.15, 0.7, 0.9, 0]

/** Path of the poster of a project as it was after an edit. */
export function posterPath(storage: Storage, projectId: string, seq: number): string {
  return storage.path('posters', `${projectId}-${seq}.jpg`)
}

/** The frame that stands for a project: of its first reel, where there is something to see. */
export function posterPlan(project: Project): FramePlan | null {
  const reel = reelsOf(project)[0]
  const length = reel ? reelLength(project, reel.id) : 0
  if (!reel || length === 0) return null
  const { width, height } = reel.format
  const scale = LONGEST / Math.max(width, height)
  const even = (value: number) => Math.max(2, Math.round((value * scale) / 2) * 2)
  const planner = new FramePlanner(project, reel.id)
  const plans = PLACES.map((part) =>
    planner.plan(Math.floor(length * part), { width: even(width), height: even(height) }),
  )
  return plans.find((plan) => plan.layers.length > 0) ?? null
}

async function draw(plan: FramePlan, project: Project, book: SourceBook, storage: Storage, out: string): Promise<void> {
  const compositor = new Compositor(await nodeEngine())
  const pool = new FramePool(compositor.engine, storage, book)
  try {
    await loadCubes(project, compositor, storage)
    const picture = await drawFrame(plan, { compositor, pool, book, storage })
    const scratch = await storage.scratch('.jpg')
    await savePicture({ width: plan.width, height: plan.height, pixels: picture.pixels() }, scratch)
    await storage.publish(scratch, out)
  } finally {
    pool.close()
    compositor.release()
  }
}

/**
 * Draws the poster of a project, the attempt being the edit it is drawn after. One that can't be drawn, such as while
 * sources are read in, is asked for again when the projects are listed.
 */
export async function drawPoster({ connection, log, storage }: Context, { id, attempt }: Job): Promise<void> {
  const { db, sql } = connection
  const [row] = await db
    .select({ seq: projects.seq, posterSeq: projects.posterSeq })
    .from(projects)
    .where(eq(projects.id, id))
  // Others have followed: their poster is asked for as well.
  if (!row || row.seq !== attempt || row.posterSeq === attempt) return
  try {
    const { project } = await log.read(id)
    const plan = posterPlan(project)
    if (!plan) return void (await db.update(projects).set({ posterSeq: null }).where(eq(projects.id, id)))
    const book = await sourceBook(connection, project)
    await checkSources(project, reelsOf(project)[0]!.id, book, storage, 'pictures')
    await draw(plan, project, book, storage, posterPath(storage, id, attempt))
    await db
      .update(projects)
      .set({ posterSeq: attempt })
      .where(and(eq(projects.id, id), eq(projects.seq, attempt)))
    await announce(sql, { kind: 'projects' })
  } catch (error) {
    console.error(`The poster of ${id} could not be drawn: ${(error as Error).message}`)
  }
}
