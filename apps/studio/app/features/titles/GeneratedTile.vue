<script setup lang="ts">
import { draggable } from '@atlaskit/pragmatic-drag-and-drop/element/adapter'
import { computed, onBeforeUnmount, onMounted, ref } from 'vue'
import X from '@lucide/vue/dist/esm/icons/x.mjs'
import { FramePlanner, snapToFrame, type FramePlan } from '@dusk/timeline'
import { sampleOf, type Generated } from './generated'

/** Something that can be generated, drawn as it will be: it runs while the pointer is on it. */
const props = defineProps<{
  name: string
  hint: string
  generated: Generated
  length: number
  format: { width: number; height: number }
  removable?: boolean
}>()
const emit = defineEmits<{ use: []; remove: [] }>()
const button = ref<HTMLElement | null>(null)
const active = ref(false)

const sample = computed(() => {
  const { project, reelId } = sampleOf(props.generated, props.format, props.length)
  return new FramePlanner(project, reelId)
})
const size = computed(() => {
  const scale = 128 / Math.max(props.format.width, props.format.height)
  const even = (value: number) => Math.max(2, Math.round((value * scale) / 2) * 2)
  return { width: even(props.format.width), height: even(props.format.height) }
})
function planAt(t: number): FramePlan {
  const rate = { num: 30, den: 1 }
  return sample.value.plan(snapToFrame(Math.min(t * props.length, props.length - 23_520_000), rate), size.value)
}
const version = computed(() => `${JSON.stringify(props.generated)} ${size.value.width}`)

let stop = () => {}
onMounted(
  () =>
    (stop = draggable({
      element: button.value!,
      getInitialData: () => ({ kind: 'generated', generated: props.generated, length: props.length, name: props.name }),
    })),
)
onBeforeUnmount(() => stop())
</script>

<template>
  <li class="group relative min-w-0">
    <button
      ref="button"
      class="block w-full text-left"
      :title="`${hint} Click to put it at the playhead, or drag it to the timeline.`"
      @click="emit('use')"
      @pointerenter="active = true"
      @pointerleave="active = false"
      @focus="active = true"
      @blur="active = false"
    >
      <ThumbnailCanvas class="aspect-video" :plan-at="planAt" :version="version" :seconds="2.4" :active="active" />
      <span class="mt-1 block truncate text-sm leading-4">{{ name }}</span>
    </button>
    <button
      v-if="removable"
      class="tile-corner opacity-0 group-hover:opacity-100 focus:opacity-100"
      :aria-label="`Forget ${name}`"
      @click="emit('remove')"
    >
      <X :size="13" />
    </button>
  </li>
</template>
