<script setup lang="ts">
import { computed, ref, shallowRef } from 'vue'
import { Disclosure, DisclosureButton, DisclosurePanel } from '@headlessui/vue'
import ChevronRight from '@lucide/vue/dist/esm/icons/chevron-right.mjs'
import {
  holdInside,
  isAnimated,
  moveViews,
  panAndZoom,
  PICTURE_MOVES,
  sourceTimeAt,
  viewOf,
  widestView,
  type Animated,
  type FramePlan,
  type MediaClip,
  type Params,
  type Point,
  type ViewRect,
} from '@dusk/timeline'
import { smallSize } from '~/features/gallery/smallSize'
import { pointerDrag } from '~/features/ui/pointerDrag'
import { useProject } from '~/features/project/projectStore'

/** Pan and zoom: the part of the picture that fills the reel at the clip's start, and the one at its end. */
const props = defineProps<{ clip: MediaClip }>()
const project = useProject()
const stage = ref<HTMLElement | null>(null)

const asset = computed(() => project.document!.assets[props.clip.assetId]!)
const picture = computed(() => asset.value.picture!)
const format = computed(() => project.reel!.format)
const fit = computed(() => props.clip.fit ?? project.reel!.fit)
/** Height of a view as a part of the picture's, for a width as a part of its. */
const tall = (width: number) =>
  (width * picture.value.width * format.value.height) / (format.value.width * picture.value.height)

/** Both ends as they are; the widest view where there are no keyframes yet. */
const ends = computed<[ViewRect, ViewRect]>(() => {
  const { position, size } = props.clip.params as { position?: Animated<Point>; size?: Animated<number> }
  if (position && size && isAnimated(position) && isAnimated(size)) {
    const view = (i: number) =>
      viewOf(position.keys.at(i)!.value, size.keys.at(i)!.value, picture.value, format.value, fit.value)
    return [view(0), view(-1)]
  }
  const width = widestView(picture.value, format.value)
  return [
    { x: 0.5, y: 0.5, width },
    { x: 0.5, y: 0.5, width },
  ]
})
const dragged = shallowRef<[ViewRect, ViewRect] | null>(null)
const shown = computed(() => dragged.value ?? ends.value)

function keep([from, to]: readonly [ViewRect, ViewRect]): void {
  const set = panAndZoom(from, to, props.clip, picture.value, format.value, fit.value)
  project.perform({ type: 'setParams', clipIds: [props.clip.id], set: set as never })
}

function drag(down: PointerEvent, which: 0 | 1, size: boolean): void {
  const box = stage.value!.getBoundingClientRect()
  const begin = ends.value[which]
  const move = (event: PointerEvent) => {
    const [dx, dy] = [(event.clientX - down.clientX) / box.width, (event.clientY - down.clientY) / box.height]
    const widest = widestView(picture.value, format.value)
    const width = size ? Math.min(widest, Math.max(0.05, begin.width + dx * 2)) : begin.width
    const hold = (value: number, part: number) => Math.min(1 - part / 2, Math.max(part / 2, value))
    const next: ViewRect = {
      x: hold(begin.x + (size ? 0 : dx), width),
      y: hold(begin.y + (size ? 0 : dy), tall(width)),
      width,
    }
    dragged.value = which === 0 ? [next, ends.value[1]] : [ends.value[0], next]
  }
  const done = () => {
    if (dragged.value) keep(dragged.value)
  }
  pointerDrag(down, { move, done, end: () => (dragged.value = null) })
}

function planAt(): FramePlan {
  const { width, height, alpha } = picture.value
  const { width: w, height: h } = smallSize(picture.value, 232)
  const time = holdInside(sourceTimeAt(props.clip, props.clip.start), asset.value)
  return {
    width: w,
    height: h,
    background: '#000000',
    passThrough: false,
    layers: [
      {
        kind: 'picture',
        assetId: asset.value.id,
        time,
        width,
        height,
        alpha,
        opacity: 1,
        matrix: [w / width, 0, 0, h / height, 0, 0],
      },
    ],
  }
}
const boxOf = ({ x, y, width }: ViewRect) => ({
  left: `${(x - width / 2) * 100}%`,
  top: `${(y - tall(width) / 2) * 100}%`,
  width: `${width * 100}%`,
  height: `${tall(width) * 100}%`,
})
const moving = computed(() => isAnimated((props.clip.params as Params).size ?? 0))
</script>

<template>
  <Disclosure v-slot="{ open }" as="section" class="border-t border-line py-1.5">
    <DisclosureButton class="flex h-7 w-full items-center gap-1 text-left font-semibold">
      <ChevronRight :size="14" class="text-muted" :class="open && 'rotate-90'" /> Pan and zoom
      <span v-if="moving" class="ml-1 size-1.5 rounded-full bg-lamp" />
    </DisclosureButton>
    <DisclosurePanel class="space-y-2 pt-1 pb-2">
      <div ref="stage" class="relative touch-none overflow-hidden rounded-md">
        <ThumbnailCanvas class="block" :plan-at="planAt" :version="`${clip.assetId} ${clip.map.source} ${clip.head}`" />
        <div
          v-for="(view, i) in shown"
          :key="i"
          class="absolute cursor-move border-2"
          :class="i === 0 ? 'border-dashed border-moss' : 'border-ember'"
          :style="boxOf(view)"
          @pointerdown="drag($event, i as 0 | 1, false)"
        >
          <span
            class="pointer-events-none absolute px-1 text-[10px] leading-4 text-ground"
            :class="i === 0 ? 'top-0 left-0 bg-moss' : 'right-0 bottom-0 bg-ember'"
            >{{ i === 0 ? 'start' : 'end' }}</span
          >
          <button
            class="absolute size-4 cursor-nwse-resize"
            :class="i === 0 ? '-right-1 -bottom-1 bg-moss' : '-top-1 -right-1 bg-ember'"
            :aria-label="`Size of the ${i === 0 ? 'start' : 'end'}`"
            @pointerdown.stop="drag($event, i as 0 | 1, true)"
          />
        </div>
      </div>
      <div class="flex flex-wrap gap-1">
        <button
          v-for="move in PICTURE_MOVES"
          :key="move.id"
          class="h-6 rounded-full bg-raised px-2 text-sm text-muted hover:text-ivory"
          @click="keep(moveViews(move, picture, format))"
        >
          {{ move.name }}
        </button>
        <button
          class="h-6 rounded-full px-2 text-sm text-muted underline"
          :disabled="!moving"
          @click="keep([ends[1], ends[0]])"
        >
          turn round
        </button>
      </div>
    </DisclosurePanel>
  </Disclosure>
</template>
