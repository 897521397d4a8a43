<script setup lang="ts">
import { computed, nextTick, onMounted, ref, shallowRef, watch } from 'vue'
import { invert, titleLayer, type TitleClip } from '@dusk/timeline'
import type { Rect } from '@dusk/compositor'
import { pointerDrag } from '~/features/ui/pointerDrag'
import { usePlayer, usePlayhead } from '~/features/player/usePlayhead'
import { useTitleText } from './useTitleText'
import { at, type Outline } from '~/features/timeline/outlines'
import { useNotices } from '~/features/ui/noticesStore'
import { useProject } from '~/features/project/projectStore'
import { useTitles } from './titlesStore'

/**
 * Typing on the picture: a field that is not seen takes the keys, the caret and the marked letters are drawn over
 * the words.
 */
const props = defineProps<{ outline: Outline; scale: number }>()
const project = useProject()
const titles = useTitles()
const notices = useNotices()
const player = usePlayer()
const playhead = usePlayhead()
const field = ref<HTMLTextAreaElement | null>(null)
const clip = computed(() => props.outline.clip as TitleClip)
const words = useTitleText(() => (project.document!.clips[clip.value.id] ?? clip.value) as TitleClip)
const text = ref(clip.value.title.text)
const rects = shallowRef<Rect[]>([])
const caret = shallowRef<Rect | null>(null)
let saidMissing = ''

const layer = () => ({
  ...titleLayer(
    { ...clip.value, title: { ...clip.value.title, text: text.value } },
    playhead.tick.value,
    project.reel!.format,
  ),
  travel: 0.5,
})

async function measure(): Promise<void> {
  const input = field.value
  if (!input) return
  const [from, to] = [input.selectionStart, input.selectionEnd]
  titles.range = [from, to]
  try {
    const answer = await player.titleLayout({ layer: layer(), range: [from, to] })
    rects.value = from < to ? answer.rects : []
    caret.value = from === to ? (answer.rects[0] ?? null) : null
    const missing = answer.measure.missing.join(' ')
    if (missing && missing !== saidMissing) notices.say(`No shipped font has ${missing}. It is drawn as an empty box.`)
    saidMissing = missing
  } catch (error) {
    notices.warn((error as Error).message)
  }
}

function type(event: Event): void {
  text.value = (event.target as HTMLTextAreaElement).value
  words.type(text.value)
  void measure()
}

/** A click puts the caret, a drag marks letters. */
function press(down: PointerEvent): void {
  const input = field.value
  const back = invert(props.outline.matrix)
  if (!input || !back || down.button !== 0) return
  const target = down.currentTarget as HTMLElement
  const frame = target.parentElement!.parentElement!.getBoundingClientRect()
  const letter = async (event: PointerEvent) => {
    const point = at(back, (event.clientX - frame.left) / props.scale, (event.clientY - frame.top) / props.scale)
    return (await player.titleLayout({ layer: layer(), at: [point[0], point[1]] })).letter ?? 0
  }
  let begin = 0
  const begun = letter(down).then((index) => {
    begin = index
    input.focus({ preventScroll: true })
    input.setSelectionRange(index, index)
    void measure()
  })
  const move = async (event: PointerEvent) => {
    await begun
    const index = await letter(event)
    input.setSelectionRange(Math.min(begin, index), Math.max(begin, index))
    void measure()
  }
  pointerDrag(down, { move: (event) => void move(event) })
}

function leave(): void {
  words.keep()
  titles.editing = null
  titles.range = null
}

const toScreen = (rect: Rect) => {
  const { matrix } = props.outline
  const [a, b, c, d] = matrix
  const [x, y] = at(matrix, rect.x, rect.y)
  const k = props.scale
  return {
    transform: `matrix(${a * k}, ${b * k}, ${c * k}, ${d * k}, ${x * k}, ${y * k})`,
    width: `${Math.max(rect.width, 1)}px`,
    height: `${rect.height}px`,
  }
}

onMounted(async () => {
  await nextTick()
  field.value?.focus({ preventScroll: true })
  field.value?.select()
  void measure()
})
watch(
  () => clip.value.title,
  (title) => {
    if (title.text !== text.value && document.activeElement !== field.value) text.value = title.text
    void measure()
  },
)
</script>

<template>
  <div class="absolute inset-0" @pointerdown.stop="leave">
    <textarea
      ref="field"
      class="absolute size-px resize-none overflow-hidden opacity-0"
      :value="text"
      maxlength="10000"
      aria-label="Words of the title"
      spellcheck="false"
      @input="type"
      @select="measure"
      @keyup="measure"
      @keydown.esc.prevent="leave"
      @keydown.stop
      @blur="words.keep()"
    />
    <div
      class="absolute top-0 left-0 origin-top-left cursor-text bg-transparent"
      :style="toScreen(outline.rect)"
      @pointerdown.stop.prevent="press"
    />
    <div
      v-for="(rect, i) in rects"
      :key="i"
      class="pointer-events-none absolute top-0 left-0 origin-top-left bg-dusk/45"
      :style="toScreen(rect)"
    />
    <div
      v-if="caret"
      class="pointer-events-none absolute top-0 left-0 origin-top-left animate-pulse"
      :style="toScreen(caret)"
    >
      <!-- As wide on the screen whatever the size of the picture. -->
      <span class="block h-full bg-lamp" :style="{ width: `${2 / scale}px` }" />
    </div>
    <p
      v-if="!text"
      class="pointer-events-none absolute bottom-2 left-1/2 -translate-x-1/2 rounded-md bg-ground/85 px-2 py-1 text-sm"
    >
      Type the words. Escape ends.
    </p>
  </div>
</template>
