import { z } from 'zod'
import { playedBy, type Clip, type ClipBase } from '../document/clip'
import { idSchema } from '../document/values'
import { copyEffects } from '../edit/carry'
import { openTrack } from '../edit/lanes'
import { refuse } from '../edit/refuse'
import { CLIP_PARAMS } from '../params/clipParams'
import { CLIP_SOUND_PARAMS } from '../params/soundParams'
import type { Params } from '../params/spec'
import { count, defineCommand } from './define'

/** Kinds of settings that can be copied from clip to clip, and what each holds. */
export const SETTING_KINDS = ['motion', 'look', 'sound', 'label'] as const
type SettingKind = (typeof SETTING_KINDS)[number]

const FIELDS: Record<SettingKind, (keyof ClipBase)[]> = { motion: ['fit'], look: [], sound: ['gain'], label: ['label'] }
/** Levels and channels; how a sound is stretched goes with its speed. */
const SOUND_KEYS = new Set(CLIP_SOUND_PARAMS.map(({ key }) => key))
const MOTION_GROUPS = new Set(['Place', 'Motion blur'])

/** Settings in the bag that go with each kind. */
const belongs = (group: string | undefined, key: string, kind: SettingKind): boolean => {
  if (SOUND_KEYS.has(key)) return kind === 'sound'
  return kind !== 'sound' && MOTION_GROUPS.has(group!) === (kind === 'motion')
}

/** The bag of settings `to` with those of a kind taken from `from`. */
function withParams(from: Params, to: Params, kind: SettingKind): Params {
  const next = { ...to }
  for (const { key, group } of [...CLIP_PARAMS, ...CLIP_SOUND_PARAMS]) {
    if (!belongs(group, key, kind)) continue
    if (from[key] === undefined) delete next[key]
    else next[key] = from[key]
  }
  return next
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
    const sameSource = (clip: Clip) => playedBy(clip) === playedBy(from)
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
        if (kind === 'sound') {
          for (const effect of [...edit.all('effects')])
            if (effect.ownerId === clip.id && effect.domain === 'sound') edit.remove('effects', effect.id)
          copyEffects(edit, 'clip', fromId, clip.id)
        }
        if (kind !== 'label') patch.params = withParams(from.params, patch.params ?? clip.params, kind)
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
