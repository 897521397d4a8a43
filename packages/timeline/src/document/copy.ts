import type { MediaClip } from './clip'
import type { IdSource } from './create'
import type { Project } from './project'

/** A clip whose sources have other ids. */
function withSources(clip: MediaClip, idOf: (old: string) => string): MediaClip {
  const takes = clip.takes?.map((take) => ({ ...take, assetId: idOf(take.assetId) }))
  return { ...clip, assetId: idOf(clip.assetId), ...(takes ? { takes } : {}) }
}

/**
 * A project as a new one: its own id and its own ids for sources, which name rows outside the document. Everything
 * else keeps its id.
 * @returns the copy, and the new id of each source by the old one
 */
export function copyProject(
  project: Project,
  name: string,
  newId: IdSource = () => crypto.randomUUID(),
): { project: Project; assets: Map<string, string> } {
  const assets = new Map(Object.keys(project.assets).map((id) => [id, newId()]))
  const copy: Project = {
    ...project,
    id: newId(),
    name,
    assets: Object.fromEntries(
      Object.values(project.assets).map((asset) => [assets.get(asset.id)!, { ...asset, id: assets.get(asset.id)! }]),
    ),
    clips: Object.fromEntries(
      Object.values(project.clips).map((clip) => [
        clip.id,
        clip.kind === 'media' ? withSources(clip, (old) => assets.get(old) ?? old) : clip,
      ]),
    ),
    effects: Object.fromEntries(
      Object.values(project.effects).map((effect) => [
        effect.id,
        effect.owner === 'asset' ? { ...effect, ownerId: assets.get(effect.ownerId) ?? effect.ownerId } : effect,
      ]),
    ),
    subclips: Object.fromEntries(
      Object.values(project.subclips).map((pick) => [
        pick.id,
        { ...pick, assetId: assets.get(pick.assetId) ?? pick.assetId },
      ]),
    ),
  }
  return { project: copy, assets }
}
