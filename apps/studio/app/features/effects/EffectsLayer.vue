<script setup lang="ts">
import { useEventListener } from '@vueuse/core'
import { computed, onScopeDispose, ref, watch } from 'vue'
import { usePlayer } from '~/features/player/usePlayhead'
import { useDesk } from '~/features/timeline/deskStore'
import { useNotices } from '~/features/ui/noticesStore'
import { pointerDrag } from '~/features/ui/pointerDrag'
import { useProject } from '~/features/project/projectStore'
import CornerHandles from './CornerHandles.vue'
import { useEffects } from './effectsStore'
import MaskLayer from './masks/MaskLayer.vue'
import { useMasks } from './masks/masksStore'
import { useSampling } from './useSampling'

/** Over the viewer's picture: masks and corners with handles, the pipette, the line between with and without. */
const props = defineProps<{ width: number; height: number; scale: number }>()
const effects = useEffects()
const masks = useMasks()
const desk = useDesk()
const player = usePlayer()
const project = useProject()
const notices = useNotices()
const sampling = useSampling()
const surface = ref<HTMLElement | null>(null)

watch(
  () => effects.bareTo,
  (bareTo) => player.look({ bareTo }),
)
onScopeDispose(() => {
  effects.bareTo = null
  effects.pipette = null
  desk.pictureTaken = false
})
const cornered = computed(() => {
  const effect = effects.openId ? project.document?.effects[effects.openId] : null
  return effect?.kind === 'corners' && !player.playing.value && masks.shapeId === null ? effect : null
})

watch(
  () => masks.shapeId !== null || cornered.value !== null || effects.pipette !== null,
  (taken) => (desk.pictureTaken = taken),
  { flush: 'post' },
)

/** Effects of the same owner from one on: a colour is told as it comes to it. */
function laterThan(id: string): string[] {
  const document = project.document
  const own = document?.effects[id]
  if (!document || !own) return [id]
  return Object.values(document.effects)
    .filter((other) => other.ownerId === own.ownerId && other.domain === 'picture' && other.order >= own.order)
    .map((other) => other.id)
}
async function sample(event: PointerEvent): Promise<void> {
  const wanted = effects.pipette
  if (!wanted || event.button !== 0) return
  event.stopPropagation()
  const box = surface.value!.getBoundingClientRect()
  const at = { x: (event.clientX - box.left) / box.width, y: (event.clientY - box.top) / box.height }
  const hex = await sampling.colourAt(at, wanted.without ? laterThan(wanted.without) : [])
  if (hex) wanted.use(hex)
  else notices.warn('The picture is not there yet. Wait for it, or pause, and try again.')
  if (!event.shiftKey) effects.pipette = null
}
useEventListener(document, 'keydown', (event) => event.key === 'Escape' && (effects.pipette = null))

function divide(down: PointerEvent): void {
  if (down.button !== 0) return
  const { left, width } = (down.currentTarget as HTMLElement).parentElement!.getBoundingClientRect()
  pointerDrag(down, {
    slack: 0,
    move: (event) => (effects.bareTo = Math.min(1, Math.max(0, (event.clientX - left) / width))),
  })
}
function shift(event: KeyboardEvent): void {
  const by = { ArrowLeft: -0.02, ArrowRight: 0.02 }[event.key]
  if (!by || effects.bareTo === null) return
  event.preventDefault()
  event.stopPropagation()
  effects.bareTo = Math.min(1, Math.max(0, effects.bareTo + by))
}
</script>

<template>
  <MaskLayer v-bind="props" />
  <CornerHandles v-if="cornered" v-bind="props" :effect="cornered" />
  <div
    v-if="effects.bareTo !== null"
    class="pointer-events-none absolute"
    :style="{ width: `${width}px`, height: `${height}px` }"
  >
    <button
      class="pointer-events-auto absolute top-0 h-full w-6 -translate-x-1/2 cursor-ew-resize touch-none"
      :style="{ left: `${effects.bareTo * 100}%` }"
      aria-label="Line between without and with effects"
      @pointerdown="divide"
      @keydown="shift"
    >
      <span class="mx-auto block h-full w-0.5 bg-lamp" />
    </button>
    <span v-if="effects.bareTo > 0.12" class="absolute bottom-2 left-2 rounded-sm bg-ground/80 px-1.5 text-sm"
      >Before</span
    >
    <span v-if="effects.bareTo < 0.88" class="absolute right-2 bottom-2 rounded-sm bg-ground/80 px-1.5 text-sm"
      >After</span
    >
  </div>
  <div
    v-if="effects.pipette"
    ref="surface"
    class="absolute cursor-crosshair"
    :style="{ width: `${width}px`, height: `${height}px` }"
    data-testid="pipette"
    @pointerdown="sample"
  >
    <p class="absolute top-2 left-2 rounded-md bg-ground/85 px-2 py-0.5 text-sm">
      {{ effects.pipette.words }} With Shift several; Escape ends.
    </p>
  </div>
</template>
