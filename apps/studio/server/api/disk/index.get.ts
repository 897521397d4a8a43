import { statfs } from 'node:fs/promises'
import { sql } from 'drizzle-orm'
import { artefacts, databaseBytes, media, projectUse } from '@dusk/store'

/** Folders of the storage that are measured as they lie there, by the name of what they hold. */
const FOLDERS = { chunks: 'chunks', renders: 'renders', unfinished: 'uploads', scratch: 'scratch' } as const

/** What takes how much room on the disk. */
export default defineApi(async () => {
  const { db, storage } = useServices()
  const [disk, database, projects, [originals], [previews], ...folders] = await Promise.all([
    statfs(storage.place.folder),
    databaseBytes(db),
    projectUse(db),
    db.select({ bytes: sql<string>`coalesce(sum(${media.size}), 0)::text` }).from(media),
    db.select({ bytes: sql<string>`coalesce(sum(${artefacts.bytes}), 0)::text` }).from(artefacts),
    ...Object.values(FOLDERS).map((folder) => storage.size(storage.path(folder))),
  ])
  const measured = Object.fromEntries(Object.keys(FOLDERS).map((kind, i) => [kind, folders[i]!.bytes]))
  return {
    free: disk.bavail * disk.bsize,
    total: disk.blocks * disk.bsize,
    parts: {
      originals: Number(originals!.bytes),
      previews: Number(previews!.bytes),
      chunks: measured.chunks!,
      renders: measured.renders!,
      unfinished: measured.unfinished! + measured.scratch!,
      database,
    },
    projects,
  }
})
