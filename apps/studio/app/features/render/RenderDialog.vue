<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import {
  formatRate,
  formatShort,
  formatTimecode,
  framesPerSecond,
  reelLength,
  REEL_RATES,
  sameRate,
  TICKS_PER_SECOND,
  type Rate,
} from '@dusk/timeline'
import { api } from '~/features/ui/api'
import { useDesk } from '~/features/timeline/deskStore'
import { estimateBytes, formatBytes, renderSizes, type FileShape } from '~/features/ui/sizes'
import { useNotices } from '~/features/ui/noticesStore'
import { useProject } from '~/features/project/projectStore'

const props = defineProps<{ open: boolean }>()
const emit = defineEmits<{ close: []; started: [] }>()
const project = useProject()
const notices = useNotices()
const desk = useDesk()

const QUALITIES = [
  { value: 'draft' as const, label: 'Draft', hint: 'quick to make, visible blur' },
  { value: 'good' as const, label: 'Good', hint: 'for uploading' },
  { value: 'best' as const, label: 'Best', hint: 'larger, for keeping' },
]
const name = ref('')
const size = ref(0)
const rate = ref(0)
const quality = ref<'draft' | 'good' | 'best'>('good')
const sound = ref(true)
const loudness = ref('as')
const LOUDNESS = [
  { value: 'as', label: 'As it was mixed' },
  { value: '-14', label: '−14 LUFS, most upload places' },
  { value: '-16', label: '−16 LUFS, speech' },
  { value: '-23', label: '−23 LUFS, broadcast' },
]
/** All of the reel, or what is marked of it. */
const part = ref<'all' | 'range'>('all')
const busy = ref(false)

const sizes = computed(() => (project.reel ? renderSizes(project.reel.format) : []))
const length = computed(() => (project.document ? reelLength(project.document, project.reelId) : 0))
/** What is marked, as far as the reel goes. */
const marked = computed(() => {
  const { range } = desk
  if (!range || range.from >= length.value) return null
  return { from: range.from, to: Math.min(range.to, length.value) }
})
const range = computed(() => (part.value === 'range' ? marked.value : null))
const long = computed(() => (range.value ? range.value.to - range.value.from : length.value))
const place = (tick: number) => formatTimecode(tick, project.reel!.format.rate)

/** The last file that was made of this reel: what the next one’s size is judged by. */
const made = ref<(FileShape & { bytes: number }) | null>(null)
interface MadeRender {
  reelId: string
  settings: { width: number; height: number; rate: Rate; quality: FileShape['quality']; sound: boolean }
  report: { bytes: number; seconds: number } | null
}
async function findMade(): Promise<void> {
  made.value = null
  const { renders } = await api<{ renders: MadeRender[] }>('/renders').catch(() => ({ renders: [] }))
  const last = renders.find((entry) => entry.reelId === project.reelId && entry.report)
  if (!last?.report) return
  const { rate: lastRate, ...shape } = last.settings
  made.value = { ...shape, ...last.report, framesPerSecond: framesPerSecond(lastRate) }
}
const bytes = computed(() => {
  const chosen = sizes.value[size.value]
  if (!chosen) return ''
  const [least, most] = estimateBytes(
    {
      ...{ width: chosen.width, height: chosen.height, framesPerSecond: framesPerSecond(REEL_RATES[rate.value]!) },
      ...{ seconds: long.value / TICKS_PER_SECOND, quality: quality.value, sound: sound.value },
    },
    made.value,
  )
  return least === most
    ? `about ${formatBytes(most)}, going by the last one`
    : `${formatBytes(least)} to ${formatBytes(most)}, by how much moves`
})

watch(
  () => props.open,
  (open) => {
    if (!open || !project.reel) return
    name.value = project.document?.name ?? 'Reel'
    part.value = marked.value ? part.value : 'all'
    void findMade()
    size.value = 0
    rate.value = Math.max(
      0,
      REEL_RATES.findIndex((entry) => sameRate(entry, project.reel!.format.rate)),
    )
  },
)

async function start(): Promise<void> {
  busy.value = true
  try {
    const { width, height } = sizes.value[size.value]!
    await api(`/projects/${project.id}/renders`, 'POST', {
      reelId: project.reelId,
      name: name.value.trim() || 'Reel',
      settings: {
        width,
        height,
        rate: REEL_RATES[rate.value],
        quality: quality.value,
        range: range.value,
        sound: sound.value,
        loudness: sound.value && loudness.value !== 'as' ? Number(loudness.value) : null,
      },
    })
    emit('started')
  } catch (error) {
    notices.warn((error as Error).message)
  } finally {
    busy.value = false
  }
}
</script>

<template>
  <DialogFrame :open="open" title="Render" @close="emit('close')">
    <form class="mt-4 space-y-3" @submit.prevent="start">
      <label class="grid grid-cols-[84px_1fr] items-center gap-2"
        ><span class="text-muted">Name</span><input v-model="name" class="field" maxlength="200"
      /></label>
      <ChoiceField
        v-if="marked"
        label="What"
        :value="part"
        :options="[
          { value: 'all', label: `The whole reel, ${formatShort(length)}` },
          { value: 'range', label: `What is marked, ${place(marked.from)} to ${place(marked.to)}` },
        ]"
        @change="part = $event"
      />
      <p v-if="range && desk.range!.to > length" class="text-sm text-lamp">
        The mark goes past the end of the reel: it is rendered up to there.
      </p>
      <ChoiceField
        label="Size"
        :value="size"
        :options="sizes.map((entry, value) => ({ value, label: entry.label }))"
        @change="size = $event"
      />
      <ChoiceField
        label="Frames/s"
        :value="rate"
        :options="REEL_RATES.map((entry, value) => ({ value, label: formatRate(entry) }))"
        @change="rate = $event"
      />
      <fieldset class="grid grid-cols-[84px_1fr] items-center gap-2">
        <legend class="sr-only">Quality</legend>
        <span class="text-muted">Quality</span>
        <div class="grid grid-cols-3 gap-2">
          <button
            v-for="entry in QUALITIES"
            :key="entry.value"
            type="button"
            class="rounded-md border px-2 py-1.5 text-left"
            :class="quality === entry.value ? 'border-dusk bg-raised' : 'border-line'"
            :aria-pressed="quality === entry.value"
            @click="quality = entry.value"
          >
            {{ entry.label }}<span class="block text-[11px] text-muted">{{ entry.hint }}</span>
          </button>
        </div>
      </fieldset>
      <label class="grid grid-cols-[84px_1fr] items-center gap-2"
        ><span class="text-muted">Sound</span
        ><span
          ><input v-model="sound" type="checkbox" class="accent-[var(--color-ember)]" /> AAC stereo, 48 kHz</span
        ></label
      >
      <ChoiceField v-if="sound" label="Loudness" :value="loudness" :options="LOUDNESS" @change="loudness = $event" />
      <p class="border-t border-line pt-3 text-muted">
        MP4 with H.264, {{ formatShort(long) }} long, {{ bytes }}. It goes on when this page is closed.
      </p>
      <p v-if="length === 0" class="text-rose">There is nothing on the timeline yet.</p>
      <div class="flex justify-end gap-2 pt-1">
        <button type="button" class="key key-line" @click="emit('close')">Cancel</button>
        <button class="key key-ember px-4" :disabled="busy || length === 0">Start rendering</button>
      </div>
    </form>
  </DialogFrame>
</template>
