import { watch } from 'vue'
import { planGenerated, plainTitle, TITLE_LENGTH, type Generated } from './generated'
import { useDesk } from '~/features/timeline/deskStore'
import { useProject } from '~/features/project/projectStore'
import { useTitles } from './titlesStore'
import { usePlayhead } from '~/features/player/usePlayhead'

/** Putting titles, shapes and backgrounds into the reel. */
export function useGenerated() {
  const project = useProject()
  const desk = useDesk()
  const titles = useTitles()
  const playhead = usePlayhead()

  /** Puts something at a place and selects it. Returns the clip's id, or `null` when it was refused. */
  function put(
    generated: Generated,
    length: number,
    at = playhead.now(),
    trackId: string | null = null,
  ): string | null {
    const document = project.document
    if (!document) return null
    const plan = planGenerated(document, project.reelId, generated, at, length, trackId)
    if (!project.perform(plan.command)) return null
    desk.select([plan.clipId], project.document)
    // What was put in is seen at once, and words that come with a move are seen when they have come.
    const comes = generated.kind === 'title' ? Math.min(generated.title.in?.length ?? 0, plan.length / 2) : 0
    const now = playhead.now()
    if (comes > 0 || now < plan.start || now >= plan.start + plan.length) playhead.goTo(plan.start + comes)
    return plan.clipId
  }

  /**
   * A new title at the playhead, ready to be typed; `position` is where on the picture, in reel pixels from the
   * middle.
   */
  function type(position: [number, number] | null = null): void {
    const format = project.reel?.format
    if (!format) return
    const generated = plainTitle(format)
    const id = put(position ? { ...generated, params: { position } } : generated, TITLE_LENGTH)
    if (!id) return
    titles.editing = id
    begun = { clipId: id, step: project.lastStep() }
  }

  /** A title that was begun on the picture. One that is left with nothing typed is as if it had never been. */
  let begun: { clipId: string; step: string | null } | null = null
  watch(
    () => titles.editing,
    (now, was) => {
      if (!begun || was !== begun.clipId || now === was) return
      const { clipId, step } = begun
      begun = null
      const clip = project.document?.clips[clipId]
      if (clip?.kind !== 'title' || clip.title.text.trim()) return
      if (project.lastStep() === step) project.undo()
      else project.perform({ type: 'remove', clipIds: [clipId], closeUp: false })
    },
    // What was typed last is kept first.
    { flush: 'post' },
  )

  return { put, type }
}
