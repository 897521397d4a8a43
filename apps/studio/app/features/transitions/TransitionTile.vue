<script setup lang="ts">
import { draggable } from '@atlaskit/pragmatic-drag-and-drop/element/adapter'
import { onBeforeUnmount, onMounted, ref } from 'vue'
import Star from '@lucide/vue/dist/esm/icons/star.mjs'
import type { FramePlan, TransitionLayer } from '@dusk/timeline'
import type { TransitionKind } from '@dusk/compositor'

/** A transition of the gallery, drawn on the person's own two shots; it runs while the pointer is on it. */
const props = defineProps<{
  kind: TransitionKind
  /** A frame of the change between the two shots, of any kind; `null` while there are none. */
  sample: FramePlan | null
  version: string
  favourite: boolean
  standard: boolean
  chosen: boolean
}>()
const emit = defineEmits<{ use: []; favour: [] }>()
const button = ref<HTMLElement | null>(null)
const active = ref(false)

function planAt(progress: number): FramePlan | null {
  if (!props.sample) return null
  const [layer] = props.sample.layers as [TransitionLayer]
  return { ...props.sample, layers: [{ ...layer, transition: props.kind.id, settings: {}, progress }] }
}

let stop = () => {}
onMounted(
  () =>
    (stop = draggable({ element: button.value!, getInitialData: () => ({ kind: 'transition', id: props.kind.id }) })),
)
onBeforeUnmount(() => stop())
</script>

<template>
  <li class="group relative min-w-0">
    <button
      ref="button"
      class="block w-full text-left"
      :title="`${kind.hint} Click to put it on the nearest cut, or drag it to one.`"
      @click="emit('use')"
      @pointerenter="active = true"
      @pointerleave="active = false"
      @focus="active = true"
      @blur="active = false"
    >
      <ThumbnailCanvas
        class="aspect-video"
        :class="chosen && 'outline-2 outline-dusk'"
        :plan-at="planAt"
        :version="version"
        :active="active"
      />
      <span class="mt-1 block truncate text-sm leading-4">{{ kind.name }}</span>
    </button>
    <span v-if="standard" class="absolute top-1 left-1 rounded-sm bg-ground/85 px-1 text-[10px] text-lamp">by key</span>
    <button
      class="tile-corner group-hover:opacity-100 focus:opacity-100"
      :class="favourite ? 'text-lamp' : 'text-ivory opacity-0'"
      :aria-pressed="favourite"
      :aria-label="favourite ? `${kind.name} is a favourite` : `Keep ${kind.name} as a favourite`"
      @click="emit('favour')"
    >
      <Star :size="13" :fill="favourite ? 'currentColor' : 'none'" />
    </button>
  </li>
</template>
