<script setup lang="ts">
import { scaleLinear, scaleLog } from 'd3-scale'
import { line } from 'd3-shape'
import { computed, ref } from 'vue'
import {
  clipSourceRange,
  holdInside,
  mapTime,
  speedAt,
  TICKS_PER_SECOND,
  type FramePlan,
  type MediaClip,
  type TimeMap,
} from '@dusk/timeline'
import { smallSize } from '~/features/gallery/smallSize'
import { useProject } from '~/features/project/projectStore'
import { layCurve, type SpeedCurve } from './curves'

/** A ready-made speed curve, with the person's own clip running along it while the pointer is on it. */
const props = defineProps<{ curve: SpeedCurve; clip: MediaClip | null }>()
defineEmits<{ use: [] }>()
const project = useProject()
const over = ref(false)

const map = computed((): { map: TimeMap; length: number } => {
  const footage = props.clip ? clipSourceRange(props.clip) : { from: 0, to: TICKS_PER_SECOND }
  const points = layCurve(props.curve, 0, footage.to - footage.from)
  return {
    map: { kind: 'ramp', source: footage.from, backwards: false, points },
    length: points.at(-1)!.at,
  }
})
const path = computed(() => {
  const x = scaleLinear().range([3, 61])
  const y = scaleLog().domain([0.2, 6]).range([30, 4])
  const draw = line<number>()
    .x((t) => x(t))
    .y((t) => y(Math.abs(speedAt(map.value.map, t * map.value.length))))
  return draw(Array.from({ length: 41 }, (_, i) => i / 40))!
})
function planAt(t: number): FramePlan | null {
  const asset = props.clip && project.document?.assets[props.clip.assetId]
  if (!asset?.picture) return null
  const { width, height, alpha } = asset.picture
  const { width: w, height: h } = smallSize(asset.picture, 96)
  const time = holdInside(mapTime(map.value.map, Math.round(t * map.value.length)), asset)
  const matrix: [number, number, number, number, number, number] = [w / width, 0, 0, h / height, 0, 0]
  return {
    width: w,
    height: h,
    background: '#000000',
    passThrough: false,
    layers: [{ kind: 'picture', assetId: asset.id, time, width, height, alpha, opacity: 1, matrix }],
  }
}
</script>

<template>
  <li>
    <button
      class="tile relative block pb-0.5 text-sm"
      :title="`${curve.hint} Click to let the clip run along it.`"
      @pointerenter="over = true"
      @pointerleave="over = false"
      @click="$emit('use')"
    >
      <span class="relative block aspect-[16/9] w-full">
        <ThumbnailCanvas
          v-if="clip"
          class="absolute inset-0 size-full rounded-none opacity-70"
          :plan-at="planAt"
          :version="`${clip.assetId} ${clip.head} ${clip.length} ${curve.id}`"
          :active="over"
          :seconds="2"
        />
        <svg class="absolute inset-0 size-full" viewBox="0 0 64 36" preserveAspectRatio="none" aria-hidden="true">
          <path :d="path" class="fill-none stroke-lamp" stroke-width="1.6" vector-effect="non-scaling-stroke" />
        </svg>
      </span>
      {{ curve.name }}
    </button>
  </li>
</template>
