import { ownFont } from './ownFont'
import type { Clip } from './clip'
import { filesNamed } from './effect'
import type { Project } from './project'

/** Hashes of the person's own fonts that a clip's title is set in. */
export function fontsNamed(clip: Clip): string[] {
  if (clip.kind !== 'title') return []
  return [clip.title.style, ...clip.title.runs.map((run) => run.style)].flatMap(({ font }) => {
    const own = typeof font === 'string' ? ownFont(font) : null
    return own ? [own.hash] : []
  })
}

/** Hashes of all files that a document names besides its media: tables of colours, fonts. */
export function filesOfProject(project: Project): Set<string> {
  return new Set([...filesNamed(project.effects), ...Object.values(project.clips).flatMap(fontsNamed)])
}
