<script setup lang="ts">
import { computed, ref } from 'vue'
import { formatRate, formatSeconds, type Asset } from '@dusk/timeline'
import { useSourceActions } from '~/features/source/useSourceActions'
import { codecName, containerName, formatBytes } from '~/features/ui/sizes'
import { useProject } from '~/features/project/projectStore'
import { useFileReplacing } from './useFileReplacing'
import { useSourceRemoval } from './useSourceRemoval'

/** The selected sources: what their files are, and what the person says of them. */
const props = defineProps<{ assets: readonly Asset[] }>()
const project = useProject()
const { replaceFile } = useFileReplacing()
const act = useSourceActions()
const removal = useSourceRemoval()

const first = computed(() => props.assets[0]!)
const state = computed(() => project.sources[first.value.id])
const uses = computed(
  () =>
    Object.values(project.document?.clips ?? {}).filter(
      (clip) => clip.kind === 'media' && clip.assetId === first.value.id && clip.stream === null,
    ).length,
)
const facts = computed(() => {
  const { picture, sounds, kind, length } = first.value
  const rows: [string, string][] = [['Kind', kind === 'video' ? 'picture' : kind]]
  if (kind !== 'still') rows.push(['Length', formatSeconds(length)])
  if (picture) rows.push(['Size', `${picture.width} × ${picture.height}${picture.alpha ? ', with transparency' : ''}`])
  if (picture?.rate) rows.push(['Frames/s', `${formatRate(picture.rate)}${picture.variable ? ', varying' : ''}`])
  sounds.forEach((sound, i) =>
    rows.push([
      i === 0 ? 'Sound' : '',
      [['', 'mono', 'stereo'][sound.channels] ?? `${sound.channels} channels`, sound.title].filter(Boolean).join(', '),
    ]),
  )
  if (state.value) {
    rows.push(
      ['Codec', state.value.codec ? codecName(state.value.codec) : '—'],
      ['Container', containerName(state.value.container)],
      ['File', formatBytes(state.value.size)],
    )
    rows.push(['Added', new Date(state.value.added).toLocaleString([], { dateStyle: 'medium', timeStyle: 'short' })])
  }
  rows.push(['In the reel', uses.value === 0 ? 'not used' : `${uses.value} ${uses.value === 1 ? 'time' : 'times'}`])
  return rows
})
/** Frames that each picture of a run shows, and the pictures in the order of their numbers. */
const runFrames = ref(3)
const inNameOrder = computed(() =>
  [...props.assets].sort((a, b) => a.name.localeCompare(b.name, undefined, { numeric: true })),
)
const ids = () => props.assets.map((asset) => asset.id)
const set = (values: Partial<Pick<Asset, 'label' | 'note'>>) =>
  project.perform({ type: 'setAssets', assetIds: ids(), set: values })

function rename(text: string): void {
  const name = text.trim()
  if (name && name !== first.value.name) project.perform({ type: 'renameAsset', assetId: first.value.id, name })
}
</script>

<template>
  <div>
    <DetailsHeading
      :name="first.name"
      :what="assets.length > 1 ? `${assets.length} sources` : 'source'"
      label="Name of the source"
      @rename="rename"
    />
    <p v-if="state?.missing" class="mt-3 rounded-md border border-rose p-2 text-rose">
      The file of this source is missing from the data folder.
      <button class="mt-1 block underline" @click="replaceFile(first)">Give it the file again</button>
    </p>
    <dl class="grid grid-cols-[84px_minmax(0,1fr)] gap-x-2 gap-y-0.5 py-3">
      <template v-for="[name, value] in facts" :key="name + value">
        <dt class="text-muted">{{ name }}</dt>
        <dd>{{ value }}</dd>
      </template>
    </dl>
    <p v-for="note in state?.notes ?? []" :key="note" class="pb-1 text-sm text-lamp">{{ note }}</p>
    <div class="flex flex-wrap gap-2 border-t border-line py-3">
      <button class="key key-line" @click="act.openSource(first.id)">Watch</button>
      <button class="key key-line" @click="act.addToEnd(ids())">Add to end</button>
      <button v-if="assets.length === 1 && !state?.missing" class="key key-line" @click="replaceFile(first)">
        Replace file
      </button>
      <button class="key text-rose" @click="removal.remove(ids())">Remove</button>
    </div>
    <section
      v-if="assets.length > 1 && assets.every((asset) => asset.kind === 'still')"
      class="border-t border-line py-3"
    >
      <h3 class="font-semibold">Stop motion</h3>
      <NumberField
        class="mt-2"
        label="Each for"
        unit="frames"
        :value="runFrames"
        :min="1"
        :max="10000"
        @change="runFrames = $event"
      />
      <button class="key key-line mt-2" @click="act.addRun(inNameOrder, runFrames)">
        Lay {{ assets.length }} pictures as a run
      </button>
    </section>
    <LabelAndNote :label="first.label" :note="first.note" note-label="Note on the source" @change="set($event)" />
  </div>
</template>
