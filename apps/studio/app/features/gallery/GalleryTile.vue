<script setup lang="ts">
import { draggable } from '@atlaskit/pragmatic-drag-and-drop/element/adapter'
import { onBeforeUnmount, onMounted, ref } from 'vue'
import type { FramePlan } from '@dusk/timeline'

/** An entry of a gallery, drawn as it will be: it runs while the pointer or the focus is on it. */
const props = defineProps<{
  name: string
  title: string
  /** A frame of its run, 0 to 1. */
  planAt: (t: number) => FramePlan | null
  /** Draws anew when this changes. */
  version: string
  /** What is dragged. */
  data: () => Record<string, unknown>
  /** Seconds of its run. */
  seconds?: number
  chosen?: boolean
}>()
const emit = defineEmits<{ use: [] }>()
const button = ref<HTMLElement | null>(null)
const active = ref(false)

let stop = () => {}
onMounted(() => (stop = draggable({ element: button.value!, getInitialData: () => props.data() })))
onBeforeUnmount(() => stop())
</script>

<template>
  <li class="group relative min-w-0">
    <button
      ref="button"
      class="block w-full text-left"
      :title="title"
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
        :seconds="seconds"
        :active="active"
      />
      <span class="mt-1 block truncate text-sm leading-4">{{ name }}</span>
    </button>
    <slot />
  </li>
</template>
