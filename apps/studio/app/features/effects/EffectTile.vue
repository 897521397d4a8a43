<script setup lang="ts">
import { draggable } from '@atlaskit/pragmatic-drag-and-drop/element/adapter'
import Star from '@lucide/vue/dist/esm/icons/star.mjs'
import { onBeforeUnmount, onMounted, ref } from 'vue'
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
const button = ref<HTMLElement | null>(null)
const active = ref(false)

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

let stop = () => {}
onMounted(() => {
  stop = draggable({
    element: button.value!,
    getInitialData: () => ({
      kind: 'effect',
      effect: {
        kind: props.tile.effects[0]!.kind,
        settings: {},
        look: {
          name: props.tile.name,
          effects: props.tile.effects.map((one) => ({ ...one, strength: Math.round(one.strength * props.strength) })),
        },
      },
    }),
  })
})
onBeforeUnmount(() => stop())
</script>

<template>
  <li class="group relative min-w-0" @contextmenu.prevent="tile.own && emit('menu', $event)">
    <button
      ref="button"
      class="block w-full text-left"
      :title="`${tile.hint} Click to put it on, or drag it to a clip.`"
      @click="emit('use')"
      @pointerenter="active = true"
      @pointerleave="active = false"
      @focus="active = true"
      @blur="active = false"
    >
      <ThumbnailCanvas class="aspect-video" :plan-at="planAt" :version="version" :seconds="2" :active="active" />
      <span class="mt-1 block truncate text-sm leading-4">{{ tile.name }}</span>
    </button>
    <button
      v-if="!tile.own"
      class="absolute top-0.5 right-0.5 grid size-6 place-items-center rounded-sm bg-ground/60"
      :class="favourite ? 'text-lamp' : 'text-ivory opacity-0 group-hover:opacity-100 focus:opacity-100'"
      :aria-label="favourite ? `${tile.name} is a favourite` : `Make ${tile.name} a favourite`"
      :aria-pressed="favourite"
      @click="emit('favourite')"
    >
      <Star :size="13" :fill="favourite ? 'currentColor' : 'none'" />
    </button>
    <slot />
  </li>
</template>
