<script setup lang="ts">
import { Disclosure, DisclosureButton, DisclosurePanel } from '@headlessui/vue'
import { useLocalStorage } from '@vueuse/core'
import ChevronRight from '@lucide/vue/dist/esm/icons/chevron-right.mjs'
import { greatest } from 'd3-array'
import { computed, ref, watch } from 'vue'
import {
  AS_REEL,
  beyondCodec,
  canCopy,
  canFit,
  copiesStreams,
  deliveryOf,
  fileSize,
  hasBitrate,
  hasQuality,
  isOtherShape,
  purposeOf,
  renderSettings,
  type DeliveryId,
  type PurposeSettings,
} from '@dusk/interchange'
import {
  formatRate,
  formatShort,
  formatTimecode,
  reelLength,
  REEL_RATES,
  sameRate,
  TICKS_PER_SECOND,
  type Format,
} from '@dusk/timeline'
import { useProject } from '~/features/project/projectStore'
import { useFeatures } from '~/features/registry/feature'
import { useDesk } from '~/features/timeline/deskStore'
import { api } from '~/features/ui/api'
import { useNotices } from '~/features/ui/noticesStore'
import { SHAPES, SHORT_SIDES } from '~/features/ui/sizes'
import { DELIVERY_CHOICES } from './deliveryChoices'
import FileSizeFields from './FileSizeFields.vue'
import { renderParts, type PartsKind } from './renderParts'
import type { RenderRow } from './renderRow'
import { useExpected } from './useExpected'
import { useHardware } from './useHardware'

/** What a reel is rendered as: for a purpose, or with settings of one's own. */
const props = defineProps<{
  open: boolean
  /** A render that is made again with changes: it begins with its settings. */
  again?: RenderRow | null
}>()
const emit = defineEmits<{ close: []; started: [] }>()
const project = useProject()
const notices = useNotices()
const desk = useDesk()

const QUALITIES = [
  { value: 'draft' as const, label: 'Draft', hint: 'quick to make, visible blur' },
  { value: 'good' as const, label: 'Good', hint: 'for uploading' },
  { value: 'best' as const, label: 'Best', hint: 'larger, for keeping' },
]
const LOUDNESS = [
  { value: 'as', label: 'As it was mixed' },
  { value: '-14', label: '−14 LUFS, most upload places' },
  { value: '-16', label: '−16 LUFS, speech' },
  { value: '-23', label: '−23 LUFS, broadcast' },
]
const DITHERS = [
  { value: 'fine' as const, label: 'Fine grain' },
  { value: 'pattern' as const, label: 'Pattern, smaller' },
  { value: 'none' as const, label: 'None: flat areas' },
]
const FITTINGS = [
  { value: 'fit' as const, label: 'Whole, with bars' },
  { value: 'fill' as const, label: 'Fills it with its middle' },
]

/** What was rendered last, by project; remembered in this browser. */
const kept = useLocalStorage<Record<string, { purpose: string; settings: PurposeSettings }>>('dusk.render', {})
const name = ref('')
const purpose = ref('asReel')
const settings = ref<PurposeSettings>(AS_REEL)
const words = ref({ title: '', description: '' })
const set = (change: Partial<PurposeSettings>) => (settings.value = { ...settings.value, ...change })
function take(id: string, from: PurposeSettings): void {
  purpose.value = id
  settings.value = { ...from }
}

const encoding = useHardware(settings)

const part = ref<PartsKind>('all')
const busy = ref(false)
const delivery = computed(() => deliveryOf(settings.value.format))
const film = computed(() => delivery.value.kind === 'film')
/** It is a number of bits that the file goes by, and not a quality. */
const byBits = computed(() => settings.value.megabits !== null || settings.value.megabytes !== null)
const reel = computed(() => project.reel?.format ?? { width: 16, height: 16, rate: REEL_RATES[0]! })
const size = computed(() => fileSize(settings.value, reel.value))
/** What the codec can't go beyond: a smaller picture is refused, a faster one slowed down. */
const beyond = computed(() =>
  beyondCodec(delivery.value, { ...size.value, rate: settings.value.rate ?? reel.value.rate }),
)
const tooSmall = computed(() => beyond.value?.field === 'size')
const otherShape = computed(() => delivery.value.picture !== null && isOtherShape(size.value, reel.value))
const shapes = computed(() => [
  { value: 'reel', label: 'As the reel' },
  ...SHAPES.map(({ ratio, name: words }) => ({ value: ratio as string, label: `${words}, ${ratio}` })),
])
const sides = computed(() =>
  [0, ...SHORT_SIDES].map((value) => {
    const { width, height } = fileSize({ ...settings.value, side: value }, reel.value)
    const same = width === reel.value.width && height === reel.value.height
    const said = same ? ', as the reel' : ', as fine as the reel'
    return { value, label: `${width} × ${height}${value === 0 ? said : ''}` }
  }),
)
const rates = computed(() => [
  { value: -1, label: `${formatRate(reel.value.rate)}, as the reel` },
  ...REEL_RATES.map((entry, value) => ({ value, label: formatRate(entry) })),
])
const rateIndex = computed(() => {
  const { rate } = settings.value
  return rate ? REEL_RATES.findIndex((entry) => sameRate(entry, rate)) : -1
})
const named = computed(() =>
  Object.values(project.document?.markers ?? {}).filter((marker) => marker.reelId === project.reelId && marker.name),
)

const length = computed(() => (project.document ? reelLength(project.document, project.reelId) : 0))
/** What is marked, as far as the reel goes. */
const marked = computed(() => {
  const { range } = desk
  if (!range || range.from >= length.value) return null
  return { from: range.from, to: Math.min(range.to, length.value) }
})
const filesOf = (kind: PartsKind) =>
  project.document ? renderParts(kind, project.document, project.reelId, name.value.trim() || 'Reel', marked.value) : []
/** The files that will be made. */
const files = computed(() => filesOf(part.value))
const range = computed(() => (part.value === 'range' ? marked.value : null))
const long = computed(() => files.value.reduce((sum, file) => sum + file.length, 0))
/** What can be rendered, where that is not the reel alone. */
const parts = computed(() => {
  const [stretches, reels] = [filesOf('stretches').length, filesOf('reels').length]
  const { value: found } = marked
  return [
    { value: 'all' as const, label: `The whole reel, ${formatShort(length.value)}` },
    ...(found
      ? [{ value: 'range' as const, label: `What is marked, ${place(found.from)} to ${place(found.to)}` }]
      : []),
    ...(stretches > 0
      ? [{ value: 'stretches' as const, label: `Each stretch that a marker names, ${stretches} in all` }]
      : []),
    ...(reels > 1 ? [{ value: 'reels' as const, label: `Every reel, ${reels} in all` }] : []),
  ]
})
const place = (tick: number) => formatTimecode(tick, project.reel!.format.rate)
const asked = computed(() => settingsOf(reel.value, range.value))
/** Settings of one of the files that are asked for. */
function settingsOf(format: Format, stretch: { from: number; to: number } | null) {
  const by = encoding.hardware.value ? { hardware: encoding.hardware.value, speed: undefined } : {}
  return { ...renderSettings(settings.value, format, stretch, words.value), ...by }
}

/** The longest of the files, where its parts tell what it comes to: it stands for all of them. */
const estimated = computed(() => {
  const { kind } = delivery.value
  const told = kind === 'film' || kind === 'pictures' || kind === 'sound'
  const longest = greatest(files.value, (file) => file.length)
  if (!props.open || !told || (film.value && settings.value.megabytes !== null) || !longest?.length) return null
  const { reelId, format, range: stretch, length: own } = longest
  // Words of a file weigh nothing.
  const plain = { ...settingsOf(format, stretch), title: undefined, description: undefined }
  return { projectId: project.id, reelId, settings: plain, part: own / long.value }
})
const expected = useExpected(
  computed(() => ({ ...asked.value, seconds: long.value / TICKS_PER_SECOND })),
  estimated,
  () => project.reelId,
)

watch(
  () => props.open,
  (open) => {
    if (!open || !project.reel) return
    name.value = project.document?.name ?? 'Reel'
    if (!parts.value.some(({ value }) => value === part.value)) part.value = 'all'
    const last = kept.value[project.id]
    words.value = { title: '', description: '' }
    if (props.again) begin(props.again)
    else if (last) take(last.purpose, { ...AS_REEL, ...last.settings })
    else take('asReel', AS_REEL)
    void expected.load()
    void encoding.load()
    void lookOver(project.reelId)
  },
)

/** Begins with what another render was made like. */
function begin({ name: called, settings: from }: RenderRow): void {
  name.value = called
  take('asReel', purposeOf(from, reel.value))
  encoding.choose(from.hardware ?? '')
  words.value = { title: from.title ?? '', description: from.description ?? '' }
  if (from.range) desk.range = { ...from.range }
  part.value = from.range ? 'range' : 'all'
}

/** What the features have to say of the reel before it is rendered. */
const checks = useFeatures().flatMap((feature) => feature.useBeforeRender?.() ?? [])
const warnings = ref<string[]>([])
async function lookOver(reelId: string): Promise<void> {
  warnings.value = []
  // One that can't be answered keeps none of the others from being.
  const found = await Promise.all(checks.map((check) => check(reelId).catch(() => [])))
  if (reelId === project.reelId) warnings.value = found.flat()
}

async function start(): Promise<void> {
  busy.value = true
  try {
    for (const { reelId, name: called, format, range: stretch, length: own } of files.value)
      await api(`/projects/${project.id}/renders`, 'POST', {
        ...{ reelId, name: called.slice(0, 200) },
        settings: { ...settingsOf(format, stretch), expected: expected.expectedOf(own / long.value) },
      })
    kept.value = { ...kept.value, [project.id]: { purpose: purpose.value, settings: settings.value } }
    emit('started')
  } catch (error) {
    notices.warn((error as Error).message)
  } finally {
    busy.value = false
  }
}
const ROW = 'grid grid-cols-[84px_1fr] items-center gap-2'
</script>

<template>
  <DialogFrame :open="open" title="Render" wide @close="emit('close')">
    <form class="mt-4 grid grid-cols-2 gap-x-6 gap-y-2" @submit.prevent="start">
      <div class="space-y-2">
        <label :class="ROW"
          ><span class="text-muted">Name</span><input v-model="name" class="field" maxlength="200"
        /></label>
        <PurposePicker :purpose="purpose" :settings="settings" @take="take" />
        <ChoiceField v-if="parts.length > 1" label="What" :value="part" :options="parts" @change="part = $event" />
        <p v-if="range && desk.range!.to > length" class="text-sm text-lamp">
          The mark goes past the end of the reel: it is rendered up to there.
        </p>
        <ChoiceField
          label="File"
          :value="settings.format as string"
          :options="DELIVERY_CHOICES"
          @change="set({ format: $event as DeliveryId })"
        />
        <p class="pl-23 text-sm text-muted">{{ delivery.hint }}</p>
        <fieldset v-if="hasQuality(delivery)" :class="ROW">
          <legend class="sr-only">Quality</legend>
          <span class="text-muted">Quality</span>
          <div class="grid grid-cols-3 gap-1.5">
            <button
              v-for="entry in QUALITIES"
              :key="entry.value"
              type="button"
              class="rounded-md border px-1.5 py-1 text-left"
              :class="settings.quality === entry.value ? 'border-dusk bg-raised' : 'border-line'"
              :aria-pressed="settings.quality === entry.value"
              @click="set({ quality: entry.value })"
            >
              {{ entry.label }}<span class="block text-[11px] leading-3.5 text-muted">{{ entry.hint }}</span>
            </button>
          </div>
        </fieldset>
        <CheckField
          v-if="canCopy(delivery)"
          label="Originals"
          :disabled="byBits"
          :value="copiesStreams(settings)"
          @change="set({ streamCopy: $event })"
        >
          {{ byBits ? 'not where a file keeps to a number of bits' : 'keep their quality where nothing was changed' }}
        </CheckField>
      </div>
      <div class="space-y-2">
        <template v-if="delivery.picture">
          <ChoiceField label="Shape" :value="settings.shape" :options="shapes" @change="set({ shape: $event })" />
          <ChoiceField label="Size" :value="settings.side" :options="sides" @change="set({ side: $event })" />
          <ChoiceField
            v-if="otherShape"
            label="The reel"
            :value="settings.fit"
            :options="FITTINGS"
            @change="set({ fit: $event })"
          />
          <ChoiceField
            v-if="delivery.kind !== 'still'"
            label="Frames/s"
            :value="rateIndex"
            :options="rates"
            @change="set({ rate: $event < 0 ? null : REEL_RATES[$event]! })"
          />
          <CheckField
            v-if="delivery.alpha"
            label="See-through"
            :disabled="settings.megabytes !== null && canFit(delivery)"
            :value="settings.alpha"
            @change="set({ alpha: $event })"
          >
            {{
              settings.megabytes !== null && canFit(delivery)
                ? 'not where a file fits into a size'
                : 'where the reel shows nothing'
            }}
          </CheckField>
          <ChoiceField
            v-if="delivery.picture === 'gif'"
            label="Colours"
            :value="settings.dither"
            :options="DITHERS"
            @change="set({ dither: $event })"
          />
        </template>
        <template v-if="delivery.sound">
          <CheckField v-if="film" label="Sound" :value="settings.sound" @change="set({ sound: $event })">
            stereo, 48 kHz
          </CheckField>
          <ChoiceField
            v-if="settings.sound || !film"
            label="Loudness"
            :value="settings.loudness === null ? 'as' : String(settings.loudness)"
            :options="LOUDNESS"
            @change="set({ loudness: $event === 'as' ? null : Number($event) })"
          />
        </template>
        <Disclosure v-if="film" v-slot="{ open: shown }" as="section">
          <DisclosureButton class="flex h-7 items-center gap-1 text-muted hover:text-ivory">
            <ChevronRight :size="14" :class="shown && 'rotate-90'" /> Words, chapters, bits
          </DisclosureButton>
          <DisclosurePanel class="space-y-2 pt-1">
            <label :class="ROW"
              ><span class="text-muted">Title</span
              ><input v-model="words.title" class="field" maxlength="200" placeholder="None"
            /></label>
            <label :class="ROW"
              ><span class="self-start pt-1 text-muted">About</span
              ><textarea
                v-model="words.description"
                class="field h-14 py-1"
                maxlength="5000"
                placeholder="What it is about"
              />
            </label>
            <CheckField
              label="Chapters"
              :value="settings.chapters"
              :disabled="named.length === 0"
              @change="set({ chapters: $event })"
            >
              {{ named.length === 0 ? 'there are no named markers' : `from ${named.length} named markers` }}
            </CheckField>
            <ChoiceField
              v-if="encoding.choices.value.length > 0"
              label="Encoded by"
              :value="encoding.hardware.value ?? ''"
              :options="encoding.choices.value"
              @change="encoding.choose($event)"
            />
            <FileSizeFields
              v-if="hasBitrate(delivery)"
              :settings="settings"
              :hardware="encoding.hardware.value !== null"
              @change="set"
            />
          </DisclosurePanel>
        </Disclosure>
      </div>
      <div class="col-span-2 space-y-2 border-t border-line pt-3">
        <p class="text-muted">
          {{ delivery.label }}<template v-if="delivery.picture">, {{ size.width }} × {{ size.height }}</template
          ><template v-if="delivery.kind !== 'still'">, {{ formatShort(long) }} long</template>,
          {{ expected.bytes.value }}. {{ expected.time.value }} It goes on when this page is closed.
        </p>
        <ul
          v-if="warnings.length > 0"
          class="max-h-28 space-y-1 overflow-auto text-lamp"
          aria-label="Before it is rendered"
        >
          <li v-for="(line, i) in warnings" :key="i">{{ line }}</li>
        </ul>
        <p v-if="beyond" :class="tooSmall ? 'text-rose' : 'text-lamp'">{{ beyond.words }}</p>
        <p v-if="length === 0" class="text-rose">There is nothing on the timeline yet.</p>
        <div class="flex justify-end gap-2 pt-1">
          <button type="button" class="key key-line" @click="emit('close')">Cancel</button>
          <button class="key key-ember px-4" :disabled="busy || length === 0 || tooSmall">Start rendering</button>
        </div>
      </div>
    </form>
  </DialogFrame>
</template>
