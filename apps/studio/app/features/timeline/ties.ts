import type { Project } from '@dusk/timeline'

/** Clips that share a group with any of `ids`, those included. */
export function withGroups(project: Project, ids: Iterable<string>): string[] {
  const wanted = new Set(ids)
  const groups = new Set<string>()
  for (const id of wanted) {
    const group = project.clips[id]?.group
    if (group) groups.add(group)
  }
  if (groups.size > 0)
    for (const id in project.clips) {
      const { group } = project.clips[id]!
      if (group && groups.has(group)) wanted.add(id)
    }
  return [...wanted]
}
