import { z } from 'zod'
import { badText, check, openDocument, type Project } from '@dusk/timeline'

/** Version of the archive's layout that this code writes. */
export const ARCHIVE_VERSION = 1

/**
 * `project.json` of a `.duskreel` archive: the document, and for each source the SHA-256 of its file, which lies in the
 * archive as `media/<hash>`, with the name the person gave it. A source that is not among them had lost its file when
 * the archive was written.
 */
export const manifestSchema = z.object({
  format: z.literal('duskreel'),
  version: z.literal(ARCHIVE_VERSION),
  project: z.unknown(),
  media: z.record(
    z.uuid(),
    z.object({ hash: z.string().regex(/^[0-9a-f]{64}$/), fileName: z.string().min(1).max(500) }),
  ),
})

/** A manifest whose document was brought up to date. */
export interface Manifest {
  project: Project
  media: Record<string, { hash: string; fileName: string }>
}

export function writeManifest({ project, media }: Manifest): string {
  return JSON.stringify({ format: 'duskreel', version: ARCHIVE_VERSION, project, media }, null, 1)
}

/** @throws {Error} in words when the text is not a manifest or was written by a newer program */
export function readManifest(text: string): Manifest {
  let data: unknown
  try {
    data = JSON.parse(text)
  } catch {
    throw new Error('project.json in this archive is not JSON; the archive is damaged.')
  }
  const version = (data as { version?: unknown } | null)?.version
  if (typeof version === 'number' && version > ARCHIVE_VERSION)
    throw new Error('This archive was written by a newer Dusk Reel. Update and open it again.')
  const parsed = manifestSchema.safeParse(data)
  if (!parsed.success) {
    const issue = parsed.error.issues[0]!
    throw new Error(`project.json in this archive is wrong at ${issue.path.join('.') || 'its root'}: ${issue.message}.`)
  }
  const bad = badText(data, text)
  if (bad) throw new Error(`project.json in this archive can’t be used: ${bad.path || 'the whole'} ${bad.words}.`)
  const project = openDocument(parsed.data.project)
  // What comes in is held to the same rules as an edit.
  const [broken, ...more] = check(project)
  if (broken)
    throw new Error(
      `The project in this archive breaks a rule: ${broken.message}` +
        (more.length > 0 ? ` And ${more.length} more.` : ''),
    )
  return { project, media: parsed.data.media }
}
