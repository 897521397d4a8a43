<script setup lang="ts">
import { computed, ref } from 'vue'
import {
  changeAt,
  isAnimated,
  paramAt,
  type Animated,
  type CommandInput,
  type Effect,
  type Point,
} from '@dusk/timeline'
import { pictureEffect } from '@dusk/compositor'
import { usePlayer } from '~/features/player/usePlayhead'
import { tried } from '~/features/project/tried'
import { useProject } from '~/features/project/projectStore'
import { pointerDrag } from '~/features/ui/pointerDrag'
import { useMaskGround } from './masks/useMaskGround'

/** The four corners of a picture, dragged on the picture. */
const props = defineProps<{ width: number; height: number; scale: number; effect: Effect }>()
const project = useProject()
const player = usePlayer()
const surface = ref<HTMLElement | null>(null)
const ground = useMaskGround(() => props.effect)
const dragged = ref<{ key: string; at: Point } | null>(null)

const params = pictureEffect('corners')!.params
const corners = computed(() =>
  params.map((param) => ({
    key: param.key,
    label: param.label,
    at:
      dragged.value?.key === param.key
        ? dragged.value.at
        : (paramAt(param, props.effect.settings, ground.value?.time ?? 0) as Point),
  })),
)
const screen = (part: Point): Point => {
  const [x, y] = ground.value!.toReel(part)
  return [x * props.scale, y * props.scale]
}
function setting(key: string, value: Point): Animated {
  const old = props.effect.settings[key]
  return old !== undefined && isAnimated(old) ? changeAt(old, ground.value!.time, value) : value
}
const command = (key: string, value: Point): CommandInput => ({
  type: 'setEffects',
  effectIds: [props.effect.id],
  set: { settings: { [key]: setting(key, value) as never } },
})

function drag(down: PointerEvent, key: string): void {
  if (down.button !== 0) return
  const box = surface.value!.getBoundingClientRect()
  pointerDrag(down, {
    slack: 1,
    move(event) {
      const part = ground.value?.toPart([
        (event.clientX - box.left) / props.scale,
        (event.clientY - box.top) / props.scale,
      ])
      if (!part) return
      const round = (value: number) => Math.round(Math.min(300, Math.max(-200, value)) * 10) / 10
      dragged.value = { key, at: [round(part[0]), round(part[1])] }
      player.tryOut(tried(project.document!, command(key, dragged.value.at))?.project ?? null)
    },
    done: (_, moved) => moved && dragged.value && project.perform(command(key, dragged.value.at)),
    cancel: () => player.tryOut(null),
    end: () => (dragged.value = null),
  })
}
</script>

<template>
  <div
    v-if="ground"
    ref="surface"
    class="pointer-events-none absolute"
    :style="{ width: `${width}px`, height: `${height}px` }"
  >
    <svg class="absolute inset-0 size-full overflow-visible" aria-hidden="true">
      <polygon
        :points="corners.map(({ at }) => screen(at).join(',')).join(' ')"
        class="fill-none stroke-lamp"
        stroke-width="1.5"
      />
    </svg>
    <button
      v-for="corner in corners"
      :key="corner.key"
      class="pointer-events-auto absolute size-7 -translate-1/2 cursor-move touch-none"
      :style="{ left: `${screen(corner.at)[0]}px`, top: `${screen(corner.at)[1]}px` }"
      :aria-label="`${corner.label} corner`"
      @pointerdown.stop="drag($event, corner.key)"
    >
      <span class="m-auto block size-3 rounded-full border border-ground bg-lamp" />
    </button>
  </div>
</template>
