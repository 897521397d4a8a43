<script setup lang="ts">
import { draggable } from '@atlaskit/pragmatic-drag-and-drop/element/adapter'
import { useIntersectionObserver } from '@vueuse/core'
import { onBeforeUnmount, onMounted, ref, watch } from 'vue'
import Star from '@lucide/vue/dist/esm/icons/star.mjs'
import type { FramePlan, TransitionLayer } from '@dusk/timeline'
import type { TransitionKind } from '@dusk/compositor'
import { usePlayer } from '~/composables/usePlayhead'

/** A transition of the gallery, drawn on the person's own two shots; it runs while the pointer is on it. */
const props = defineProps<{
  kind: TransitionKind
  /** A frame of the change between the two shots, of any kind; `null` while there are none. */
  sample: FramePlan | null
  favourite: boolean
  standard: boolean
  chosen: boolean
}>()
const emit = defineEmits<{ use: []; favour: [] }>()
const player = usePlayer()
const canvas = ref<HTMLCanvasElement | null>(null)
const button = ref<HTMLElement | null>(null)
const seen = ref(false)
/** Seconds that the change takes in the gallery, and the rest before it begins anew. */
const [RUN, REST] = [1.1, 0.4]
let began = 0
let running = 0

async function draw(progress: number): Promise<void> {
  const target = canvas.value
  if (!target || !props.sample) return
  const [layer] = props.sample.layers as [TransitionLayer]
  const plan = { ...props.sample, layers: [{ ...layer, transition: props.kind.id, settings: {}, progress }] }
  const picture = await player.sketch(plan)
  if (!picture || !canvas.value) return
  canvas.value.getContext('2d')!.drawImage(picture, 0, 0, target.width, target.height)
  picture.close()
}

async function run(turn: number): Promise<void> {
  if (turn !== running) return
  const t = ((performance.now() - began) / 1000) % (RUN + REST)
  await draw(Math.min(1, t / RUN))
  requestAnimationFrame(() => void run(turn))
}
function enter(): void {
  began = performance.now()
  void run(++running)
}
function leave(): void {
  running++
  void draw(0.5)
}

useIntersectionObserver(button, ([entry]) => (seen.value = entry!.isIntersecting))
watch(() => [seen.value, props.sample] as const, ([on]) => on && void draw(0.5)) // prettier-ignore
let stop = () => {}
onMounted(() => (stop = draggable({ element: button.value!, getInitialData: () => ({ kind: 'transition', id: props.kind.id }) }))) // prettier-ignore
onBeforeUnmount(() => (running++, stop()))
</script>

<template>
  <li class="group relative min-w-0">
    <button
      ref="button"
      class="block w-full text-left"
      :title="`${kind.hint} Click to put it on the nearest cut, or drag it to one.`"
      @click="emit('use')"
      @pointerenter="enter"
      @pointerleave="leave"
      @focus="enter"
      @blur="leave"
    >
      <canvas
        ref="canvas"
        width="128"
        height="72"
        class="aspect-video w-full rounded-md bg-raised"
        :class="chosen && 'outline-2 outline-dusk'"
      />
      <span class="mt-1 block truncate text-sm leading-4">{{ kind.name }}</span>
    </button>
    <span v-if="standard" class="absolute top-1 left-1 rounded-sm bg-ground/85 px-1 text-[10px] text-lamp">by key</span>
    <button
      class="absolute top-0.5 right-0.5 grid size-6 place-items-center rounded-md hover:bg-ground/70 focus:opacity-100 group-hover:opacity-100"
      :class="favourite ? 'text-lamp' : 'text-ivory opacity-0'"
      :aria-pressed="favourite"
      :aria-label="favourite ? `${kind.name} is a favourite` : `Keep ${kind.name} as a favourite`"
      @click="emit('favour')"
    >
      <Star :size="13" :fill="favourite ? 'currentColor' : 'none'" />
    </button>
  </li>
</template>
