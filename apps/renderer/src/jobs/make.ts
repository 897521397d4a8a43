import { randomUUID } from 'node:crypto'
import { mkdir } from 'node:fs/promises'
import { dirname } from 'node:path'
import { and, eq } from 'drizzle-orm'
import { BadMedia, examine, makeProxy, makeSound, makeStrip, proxySize, readTiming, sourcePaths } from '@dusk/media'
import { frameCount, tableLength } from '@dusk/timeline'
import { announce, assets, media, type MediaFacts } from '@dusk/store'
import { assetEntry, factsOf } from './examine'
import type { Context } from './context'
import { withHeartbeat } from './heartbeat'

/** Makes what previewing needs: sound and waveform first, since they are quick, then the proxy and its film strip. */
export async function makePreviewFiles({ connection, log, storage, stopping }: Context, hash: string): Promise<void> {
  const { db, sql } = connection
  const [row] = await db.select().from(media).where(eq(media.hash, hash))
  if (!row || row.state === 'ready' || row.state === 'failed') return
  await db.update(media).set({ state: 'working', heartbeatAt: new Date() }).where(eq(media.hash, hash))
  let told = 0
  const report = async (progress: number) => {
    if (Date.now() - told < 400) return
    told = Date.now()
    await db.update(media).set({ progress, heartbeatAt: new Date() }).where(eq(media.hash, hash))
    await announce(sql, { kind: 'media', hash })
  }
  const beat = async () => {
    await db
      .update(media)
      .set({ heartbeatAt: new Date() })
      .where(and(eq(media.hash, hash), eq(media.state, 'working')))
    return true
  }
  try {
    const facts = await withHeartbeat(
      beat,
      () => {},
      () => make(report),
    )
    await db.update(media).set({ facts, state: 'ready', progress: 1, message: null }).where(eq(media.hash, hash))
    // Lengths are known to the sample and the frame now; projects that use the source are told.
    const users = await db
      .select()
      .from(assets)
      .where(and(eq(assets.hash, hash), eq(assets.state, 'taken')))
    for (const asset of users) {
      const { project } = await log.read(asset.projectId).catch(() => ({ project: null }))
      const known = project?.assets[asset.id]
      if (!known) continue
      const entry = assetEntry(asset.id, known.name, facts)
      await log.append(asset.projectId, asset.windowId, [
        { id: randomUUID(), command: { type: 'addAsset', asset: entry } },
      ])
    }
  } catch (error) {
    stopping.throwIfAborted()
    const message =
      error instanceof BadMedia ? error.message : `Its preview could not be made: ${(error as Error).message}`
    if (!(error instanceof BadMedia)) console.error(`Preparing ${hash}:`, error)
    await db.update(media).set({ state: 'failed', message }).where(eq(media.hash, hash))
  }
  await announce(sql, { kind: 'media', hash })

  async function make(say: (progress: number) => Promise<void>): Promise<MediaFacts> {
    const original = storage.original(hash)
    const paths = sourcePaths(storage, hash)
    const examined = await examine(original, row!.size, stopping)
    const facts = factsOf(examined)
    await mkdir(dirname(paths.proxy), { recursive: true })
    const soundShare = examined.kind === 'sound' ? 1 : 0.15
    const streams = facts.sounds.length
    const progress = (part: number) => void say(part).catch(() => {})
    for (let i = 0; i < streams; i++) {
      const [pcm, wave] = [await storage.scratch('.pcm'), await storage.scratch('.wave')]
      const samples = await makeSound(original, examined, i, pcm, wave, {
        signal: stopping,
        progress: (part) => progress(((i + part) / streams) * soundShare),
      })
      await storage.publish(wave, paths.waveform(i))
      await storage.publish(pcm, paths.sound(i))
      facts.sounds[i]!.samples = samples
      if (examined.kind === 'sound') facts.length = Math.max(i === 0 ? 0 : facts.length, samples * 14_700)
    }
    if (examined.kind === 'video') {
      const proxy = await storage.scratch('.mp4')
      const written = await makeProxy(original, examined, proxy, {
        signal: stopping,
        progress: (part) => progress(soundShare + part * (0.97 - soundShare)),
      })
      if (written !== frameCount(facts.table!)) {
        // Packets and pictures do not agree, as in damaged files: times are taken from the pictures themselves.
        const timing = await readTiming(original, examined.info, true, stopping)
        facts.table = timing.table
        facts.zero = timing.zero
        facts.timed = false
        facts.length = tableLength(timing.table)
        facts.notes.push('Some of its pictures can’t be decoded and are left out.')
      }
      const size = proxySize(facts.width!, facts.height!)
      const strip = await storage.scratch('.jpg')
      const info = await makeStrip(proxy, facts.table!, size, strip, stopping)
      await storage.publish(strip, paths.strip('jpg'))
      await storage.publish(proxy, paths.proxy)
      facts.strip = { ...info, type: 'jpg' }
      facts.proxy = size
    }
    return facts
  }
}
