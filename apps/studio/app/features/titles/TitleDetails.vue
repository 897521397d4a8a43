<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import { LETTER_PARAMS, ownFont, TITLE_PARAMS, type Animated, type TitleClip } from '@dusk/timeline'
import { FONTS } from '@dusk/compositor'
import { FONT_CHOICES, ownFontChoices, showFonts } from './fontFaces'
import { useOwnFonts } from './ownFontsStore'
import { useTitleText } from './useTitleText'
import { useNotices } from '~/features/ui/noticesStore'
import { useProject } from '~/features/project/projectStore'
import { useTitles } from './titlesStore'

/** Words, look and moves of a title. */
const props = defineProps<{ clip: TitleClip; time: number }>()
const emit = defineEmits<{ go: [clipTime: number] }>()
const project = useProject()
const titles = useTitles()
const notices = useNotices()
const words = useTitleText(() => props.clip)
const text = ref(props.clip.title.text)
watch(
  () => props.clip.title.text,
  (now) => (text.value = now),
)

const LETTERS = new Set(LETTER_PARAMS.map((param) => param.key))
const marked = computed(() => {
  const { range, editing } = titles
  return editing === props.clip.id && range && range[1] > range[0] ? range : null
})
/** What is shown for the letters that are marked: the title's own look with the run's upon it. */
const style = computed(() => {
  const { title } = props.clip
  const range = marked.value
  if (!range) return title.style
  return Object.assign(
    {},
    title.style,
    ...title.runs.filter((run) => run.from <= range[0] && run.to >= range[1]).map((run) => run.style),
  )
})
const font = computed(() => String(style.value.font ?? LETTER_PARAMS.find((param) => param.key === 'font')!.default))
const ownFonts = useOwnFonts()
void ownFonts.load()
/** One that came with the project, and is not among the person's, is offered as well. */
const fontChoices = computed(() => {
  const own = ownFontChoices(ownFonts.list)
  const named = ownFont(font.value)
  const here = named && !own.some(({ value }) => value === font.value)
  return [...own, ...(here ? [{ value: font.value, label: named.name }] : []), ...FONT_CHOICES]
})
/** The font has a list of its own; what it can't do is not offered. */
const params = computed(() => {
  const own = { weights: [100, 900] as const, italic: true }
  const shipped = FONTS.find((entry) => entry.family === font.value) ?? FONTS[0]!
  const { weights, italic } = ownFont(font.value) ? own : shipped
  return TITLE_PARAMS.flatMap((param) => {
    if (param.key === 'font' || (param.key === 'italic' && !italic)) return []
    return param.key === 'weight' && param.kind === 'number'
      ? [{ ...param, min: weights[0], max: weights[1] }]
      : [param]
  })
})
const setMove = (phase: 'in' | 'out' | 'during', value: TitleClip['title']['in']) =>
  project.perform({ type: 'setTitle', clipIds: [props.clip.id], set: { [phase]: value } })

function type(event: Event): void {
  const field = event.target as HTMLTextAreaElement
  if (words.fits(field.value)) words.type((text.value = field.value))
  else field.value = text.value
}

async function keepOwn(): Promise<void> {
  const { title, params: place } = props.clip
  const name = title.text.trim().split('\n')[0]!.slice(0, 40) || 'Title'
  const { width, height } = project.reel!.format
  const own = { id: crypto.randomUUID(), name, title, params: place as never, format: { width, height } }
  if (await titles.keep(own)) notices.say(`${name} is kept under Titles, Your own.`)
}
const change = (patch: Record<string, Animated | null>) => words.style(patch, LETTERS)
</script>

<template>
  <div>
    <section class="space-y-1.5 py-3">
      <textarea
        class="field h-20 resize-y py-1.5"
        :value="text"
        aria-label="Words of the title"
        placeholder="What it says"
        @input="type($event)"
        @blur="words.keep()"
        @keydown.stop
      />
      <ChoiceField
        label="Font"
        :value="font"
        :options="fontChoices"
        @change="change({ font: $event })"
        @open="showFonts(ownFonts.list)"
      />
      <div class="flex justify-end"><OwnFont :font="font" @added="change({ font: $event })" /></div>
      <TitleFaults :clip="clip" @size="change({ size: $event })" />
      <p v-if="marked" class="text-sm text-lamp">Letters {{ marked[0] + 1 }} to {{ marked[1] }}: changes go to them.</p>
    </section>
    <ParamGroups
      :params="params"
      :values="style"
      :time="time"
      :open="['Letters']"
      @change="change"
      @go="emit('go', $event)"
    />
    <TravelSpeed v-if="style.travel && style.travel !== 'none'" :clip="clip" />
    <section class="space-y-3 border-t border-line py-3">
      <h3 class="font-semibold">Moves</h3>
      <MoveFields label="Comes" use="pass" :value="clip.title.in" @change="setMove('in', $event)" />
      <MoveFields label="Goes" use="pass" :value="clip.title.out" @change="setMove('out', $event)" />
      <MoveFields label="While shown" use="stay" :value="clip.title.during" @change="setMove('during', $event)" />
    </section>
    <section class="border-t border-line py-3">
      <button class="key key-line" @click="keepOwn">Keep as a title of your own</button>
    </section>
  </div>
</template>
