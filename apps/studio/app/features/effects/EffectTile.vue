<script setup lang="ts">
import { pictureEffect } from '@dusk/compositor'
import { maskPlan, resolveParams, type FramePlan } from '@dusk/timeline'
import type { EffectTileEntry } from './tiles'

/** Effects drawn on the person's own frame; what moves by itself runs while the pointer is on it. */
const props = defineProps<{
  tile: EffectTileEntry
  favourite: boolean
  /** The frame under the playhead; `null` while there is none. */
  sample: FramePlan | null
  /** Pixels of the sample per pixel of the reel. */
  scale: number
  /** How much of it, 0 to 1. */
  strength: number
  version: string
}>()
const emit = defineEmits<{ use: []; favourite: []; menu: [event: MouseEvent] }>()

function planAt(t: number): FramePlan | null {
  if (!props.sample) return null
  const stack = props.tile.effects.map(({ kind, settings, strength, mask }) => ({
    kind,
    settings: resolveParams(pictureEffect(kind)?.params ?? [], settings, 0),
    strength: (strength / 100) * props.strength,
    ...(mask ? { mask: maskPlan(mask, 0) } : {}),
  }))
  return { ...props.sample, effects: { stack, scale: props.scale, time: t * 2 }, passThrough: false }
}
const data = () => ({
  kind: 'effect',
  effect: {
    kind: props.tile.effects[0]!.kind,
    settings: {},
    look: {
      name: props.tile.name,
      effects: props.tile.effects.map((one) => ({ ...one, strength: Math.round(one.strength * props.strength) })),
    },
  },
})
</script>

<template>
  <GalleryTile
    :name="tile.name"
    :title="`${tile.hint} Click to put it on, or drag it to a clip.`"
    :plan-at="planAt"
    :version="version"
    :data="data"
    :seconds="2"
    @use="emit('use')"
    @contextmenu.prevent="tile.own && emit('menu', $event)"
  >
    <FavouriteStar v-if="!tile.own" :name="tile.name" :favourite="favourite" @toggle="emit('favourite')" />
    <slot />
  </GalleryTile>
</template>
