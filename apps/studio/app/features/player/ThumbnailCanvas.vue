<script setup lang="ts">
import { useIntersectionObserver } from '@vueuse/core'
import { onBeforeUnmount, ref, watch } from 'vue'
import type { FramePlan } from '@dusk/timeline'
import { usePlayer } from './usePlayhead'

/** A small live picture of a gallery: still until the pointer is on it, then it runs. */
const props = withDefaults(
  defineProps<{
    /** The frame at a part of the run, 0 to 1; `null` while there is nothing to draw. */
    planAt: (t: number) => FramePlan | null
    /** Draws anew when this changes. */
    version: string
    /** Part of the run that is shown while it stands still. */
    still?: number
    /** Seconds that a run takes. */
    seconds?: number
    active?: boolean
  }>(),
  { still: 0.5, seconds: 1.1 },
)
const player = usePlayer()
const canvas = ref<HTMLCanvasElement | null>(null)
const seen = ref(false)
const REST = 0.4
let began = 0
let running = 0

async function draw(t: number): Promise<void> {
  const plan = canvas.value ? props.planAt(t) : null
  if (!plan) return
  const picture = await player.thumbnail(plan)
  const target = canvas.value
  if (picture && target) {
    if (target.width !== plan.width || target.height !== plan.height) {
      target.width = plan.width
      target.height = plan.height
    }
    target.getContext('2d')!.drawImage(picture, 0, 0)
  }
  picture?.close()
}

async function run(turn: number): Promise<void> {
  if (turn !== running) return
  await draw(Math.min(1, (((performance.now() - began) / 1000) % (props.seconds + REST)) / props.seconds))
  requestAnimationFrame(() => void run(turn))
}

watch(
  () => props.active,
  (on) => {
    running++
    if (on) {
      began = performance.now()
      void run(running)
    } else void draw(props.still)
  },
)
useIntersectionObserver(canvas, ([entry]) => (seen.value = entry!.isIntersecting))
watch(
  () => [seen.value, props.version] as const,
  ([on]) => on && void draw(props.still),
)
// Nothing is drawn while it plays; what was missed then is drawn afterwards.
watch(player.playing, (on) => !on && seen.value && void draw(props.still))
onBeforeUnmount(() => running++)
</script>

<template>
  <canvas ref="canvas" width="128" height="72" class="w-full rounded-md bg-raised object-contain" />
</template>
