<script setup lang="ts">
import { computed } from 'vue'
import X from '@lucide/vue/dist/esm/icons/x.mjs'
import { FramePlanner, snapToFrame, type FramePlan } from '@dusk/timeline'
import { smallSize } from '~/features/gallery/smallSize'
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

const sample = computed(() => {
  const { project, reelId } = sampleOf(props.generated, props.format, props.length)
  return new FramePlanner(project, reelId)
})
const size = computed(() => smallSize(props.format, 128))
function planAt(t: number): FramePlan {
  const rate = { num: 30, den: 1 }
  return sample.value.plan(snapToFrame(Math.min(t * props.length, props.length - 23_520_000), rate), size.value)
}
const version = computed(() => `${JSON.stringify(props.generated)} ${size.value.width}`)

const data = () => ({ kind: 'generated', generated: props.generated, length: props.length, name: props.name })
</script>

<template>
  <GalleryTile
    :name="name"
    :title="`${hint} Click to put it at the playhead, or drag it to the timeline.`"
    :plan-at="planAt"
    :version="version"
    :data="data"
    :seconds="2.4"
    @use="emit('use')"
  >
    <button
      v-if="removable"
      class="tile-corner opacity-0 group-hover:opacity-100 focus:opacity-100"
      :aria-label="`Forget ${name}`"
      @click="emit('remove')"
    >
      <X :size="13" />
    </button>
  </GalleryTile>
</template>
