import { z } from 'zod'
import type { Clip, ClipBase } from '../document/clip'
import { idSchema } from '../document/values'
import { openTrack } from '../edit/lanes'
import { refuse } from '../edit/refuse'
import { count, defineCommand } from './define'

/** Kinds of settings that can be copied from clip to clip, and what each holds. */
export const SETTING_KINDS = ['motion', 'look', 'sound', 'label'] as const

const FIELDS: Record<(typeof SETTING_KINDS)[number], (keyof ClipBase)[]> = {
  motion: ['place', 'fit'],
  look: ['opacity'],
  sound: ['gain'],
  label: ['label'],
}

/** Copies settings of one clip to others, by kind; picture settings go to pictures only, sound settings to sounds. */
export const copySettings = defineCommand({
  schema: z.object({
    type: z.literal('copySettings'),
    fromId: idSchema,
    /** Clips to change, or `source`: every clip of the same source in the project. */
    to: z.union([z.array(idSchema).min(1).max(5000), z.literal('source')]),
    kinds: z.array(z.enum(SETTING_KINDS)).min(1),
  }),
  apply(edit, { fromId, to, kinds }) {
    const from = edit.need('clips', fromId)
    const sameSource = (clip: Clip) =>
      from.kind === 'media'
        ? clip.kind === 'media' && clip.assetId === from.assetId
        : clip.kind === 'reel' && clip.nestedId === from.nestedId
    const kindOf = (clip: Clip) => edit.need('tracks', clip.trackId).kind
    const targets = to === 'source' ? [...edit.all('clips')].filter(sameSource) : to.map((id) => edit.need('clips', id))
    let changed = 0
    for (const clip of targets) {
      if (clip.id === fromId) continue
      if (to === 'source' && edit.need('tracks', clip.trackId).locked) continue
      openTrack(edit, clip.trackId)
      const patch: Partial<ClipBase> = {}
      for (const kind of kinds) {
        if (kind !== 'label' && (kind === 'sound') !== (kindOf(clip) === 'sound')) continue
        if (kind !== 'label' && kindOf(from) !== kindOf(clip)) continue
        for (const field of FIELDS[kind]) Object.assign(patch, { [field]: from[field] })
      }
      if (Object.keys(patch).length === 0) continue
      edit.patchClip(clip.id, patch)
      changed++
    }
    if (changed === 0) refuse('nothing', 'No other clip takes these settings.', [fromId])
  },
  describe: ({ to, kinds }) =>
    `Copied ${kinds.join(' and ')} to ${to === 'source' ? 'every piece of the source' : count(to.length, 'clip')}`,
})
