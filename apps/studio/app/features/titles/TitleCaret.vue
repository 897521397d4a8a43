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
const ground = ref<HTMLElement | null>(null)
const clip = computed(() => props.outline.clip as TitleClip)
const words = useTitleText(() => (project.document!.clips[clip.value.id] ?? clip.value) as TitleClip)
const text = ref(clip.value.title.text)
const rects = shallowRef<Rect[]>([])
const caret = shallowRef<Rect | null>(null)
/** Boxes that stand for letters no font here has. */
const lost = shallowRef<Rect[]>([])
/** Where up and down go to in each line, in reel pixels, until the caret is moved otherwise. */
let column: number | null = null

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
    lost.value = answer.missing
  } catch (error) {
    notices.warn((error as Error).message)
  }
}

function type(event: Event): void {
  const input = event.target as HTMLTextAreaElement
  column = null
  if (words.fits(input.value)) words.type((text.value = input.value))
  else input.value = text.value
  void measure()
}

const letterAt = async (x: number, y: number) => (await player.titleLayout({ layer: layer(), at: [x, y] })).letter ?? 0

/** Keys that go by the lines as they are seen: the field knows only those that were typed. */
async function goByLine(event: KeyboardEvent): Promise<void> {
  const input = field.value
  const key = event.key as 'Home' | 'End' | 'ArrowUp' | 'ArrowDown'
  if (!input || !['Home', 'End', 'ArrowUp', 'ArrowDown'].includes(key) || event.ctrlKey || event.metaKey) {
    column = null
    return
  }
  event.preventDefault()
  const { selectionStart, selectionEnd, selectionDirection } = input
  const backward = selectionDirection === 'backward'
  const [anchor, moving] = backward ? [selectionEnd, selectionStart] : [selectionStart, selectionEnd]
  const { rects } = await player.titleLayout({ layer: layer(), range: [moving, moving] })
  const here = rects[0]
  if (!here) return
  const middle = here.y + here.height / 2
  let to: number
  if (key === 'Home' || key === 'End') {
    to = await letterAt(key === 'Home' ? -1e6 : 1e6, middle)
    column = null
  } else {
    column ??= here.x
    const next = middle + (key === 'ArrowUp' ? -here.height : here.height)
    to = await letterAt(column, next)
    // Nothing above the first line, or below the last.
    const { rects: there } = await player.titleLayout({ layer: layer(), range: [to, to] })
    if (there[0] && Math.abs(there[0].y - here.y) < here.height / 4) to = key === 'ArrowUp' ? 0 : text.value.length
  }
  const from = event.shiftKey ? anchor : to
  input.setSelectionRange(Math.min(from, to), Math.max(from, to), to < from ? 'backward' : 'forward')
  void measure()
}

/** A double click marks a word. */
async function markWord(event: MouseEvent): Promise<void> {
  const input = field.value
  const point = placeOf(event)
  if (!input || !point) return
  const at = await letterAt(...point)
  const word = [...new Intl.Segmenter(undefined, { granularity: 'word' }).segment(text.value)].find(
    ({ index, segment }) => at >= index && at < index + segment.length,
  )
  if (word) input.setSelectionRange(word.index, word.index + word.segment.length)
  void measure()
}

/** A place on the screen in the title's own pixels. */
function placeOf(event: MouseEvent): [number, number] | null {
  const back = invert(props.outline.matrix)
  const frame = ground.value?.getBoundingClientRect()
  if (!back || !frame) return null
  const [x, y] = at(back, (event.clientX - frame.left) / props.scale, (event.clientY - frame.top) / props.scale)
  return [x, y]
}

/** A click puts the caret, a drag marks letters. */
function press(down: PointerEvent): void {
  const input = field.value
  if (!input || down.button !== 0 || down.detail > 1) return
  column = null
  const letter = async (event: PointerEvent) => letterAt(...(placeOf(event) ?? [0, 0]))
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
  <div ref="ground" class="absolute inset-0" @pointerdown.stop="leave">
    <textarea
      ref="field"
      class="absolute size-px resize-none overflow-hidden opacity-0"
      :value="text"
      aria-label="Words of the title"
      spellcheck="false"
      @input="type"
      @select="measure"
      @keyup="measure"
      @keydown.esc.prevent="leave"
      @keydown.stop="goByLine"
      @blur="words.keep()"
    />
    <div
      class="absolute top-0 left-0 origin-top-left cursor-text bg-transparent"
      :style="toScreen(outline.rect)"
      @pointerdown.stop.prevent="press"
      @dblclick.stop="markWord"
    />
    <div
      v-for="(rect, i) in lost"
      :key="`lost ${i}`"
      class="pointer-events-none absolute top-0 left-0 origin-top-left bg-rose/45"
      :style="toScreen(rect)"
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
