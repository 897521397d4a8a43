<script setup lang="ts">
import { draggable } from '@atlaskit/pragmatic-drag-and-drop/element/adapter'
import { onBeforeUnmount, onMounted, ref } from 'vue'
import { resolveParams, type FramePlan, type Params } from '@dusk/timeline'
import type { EffectKind } from '@dusk/compositor'

/** An effect with settings, drawn on the person's own frame; what moves by itself runs while the pointer is on it. */
const props = defineProps<{
  kind: EffectKind
  name: string
  settings: Params
  /** The frame under the playhead; `null` while there is none. */
  sample: FramePlan | null
  /** Pixels of the sample per pixel of the reel. */
  scale: number
  version: string
}>()
const emit = defineEmits<{ use: [] }>()
const button = ref<HTMLElement | null>(null)
const active = ref(false)

function planAt(t: number): FramePlan | null {
  if (!props.sample) return null
  const stack = [{ kind: props.kind.id, settings: resolveParams(props.kind.params, props.settings, 0), strength: 1 }]
  return { ...props.sample, effects: { stack, scale: props.scale, time: t * 2 }, passThrough: false }
}

let stop = () => {}
onMounted(() => {
  stop = draggable({
    element: button.value!,
    getInitialData: () => ({ kind: 'effect', effect: { kind: props.kind.id, settings: props.settings } }),
  })
})
onBeforeUnmount(() => stop())
</script>

<template>
  <li class="min-w-0">
    <button
      ref="button"
      class="block w-full text-left"
      :title="`${kind.hint} Click to put it on, or drag it to a clip.`"
      @click="emit('use')"
      @pointerenter="active = true"
      @pointerleave="active = false"
      @focus="active = true"
      @blur="active = false"
    >
      <ThumbnailCanvas class="aspect-video" :plan-at="planAt" :version="version" :seconds="2" :active="active" />
      <span class="mt-1 block truncate text-sm leading-4">{{ name }}</span>
    </button>
  </li>
</template>
