<script setup lang="ts">
import { computed, ref } from 'vue'
import { clipEnd, LAYOUTS, type Cell, type Clip } from '@dusk/timeline'
import { planSplit } from './cells'
import { useNotices } from '~/features/ui/noticesStore'
import { useProject } from '~/features/project/projectStore'

/** Split screens for the selected pictures: one in each cell, in the order they lie from back to front. */
const props = defineProps<{ clips: readonly Clip[] }>()
const project = useProject()
const notices = useNotices()
const gap = ref(16)
const cornerRadius = ref(0)
const border = ref(0)
const comes = ref(false)

const fitting = computed(() => LAYOUTS.filter((layout) => layout.cells.length >= props.clips.length))
const sorted = computed(() =>
  [...props.clips].sort((a, b) =>
    project.document!.tracks[a.trackId]!.order < project.document!.tracks[b.trackId]!.order ? -1 : 1,
  ),
)
/** Pictures one after the other on a track are never seen together. */
const together = computed(() =>
  props.clips.every((a) => props.clips.every((b) => a.start < clipEnd(b) && b.start < clipEnd(a))),
)

function lay(cells: readonly Cell[]): void {
  if (!together.value)
    return notices.say('Put the pictures on tracks above each other first, so that they are seen at the same time.')
  const look = { gap: gap.value, cornerRadius: cornerRadius.value, border: border.value, comes: comes.value }
  const done = project.performAll(
    planSplit(project.document!, project.reelId, sorted.value, cells, look),
    'Laid out a split screen',
  )
  const empty = cells.length - props.clips.length
  if (done && empty > 0) notices.say(`Drop footage on the empty ${empty === 1 ? 'cell' : 'cells'} in the viewer.`)
}
</script>

<template>
  <section class="space-y-2 border-t border-line py-3">
    <h3 class="font-semibold">Split screen</h3>
    <div class="grid grid-cols-4 gap-2">
      <button
        v-for="layout in fitting"
        :key="layout.id"
        class="relative aspect-video overflow-hidden rounded-sm bg-ground hover:outline-2 hover:outline-dusk"
        :title="layout.name"
        :aria-label="`Split screen: ${layout.name}`"
        @click="lay(layout.cells)"
      >
        <span
          v-for="(cell, i) in layout.cells"
          :key="i"
          class="absolute border border-ground bg-clip-picture"
          :style="{
            left: `${cell.x * 100}%`,
            top: `${cell.y * 100}%`,
            width: `${cell.width * 100}%`,
            height: `${cell.height * 100}%`,
          }"
        />
      </button>
    </div>
    <NumberField label="Gap" unit="px" :value="gap" :min="0" :max="400" :initial="16" @change="gap = $event" />
    <NumberField label="Corners" unit="px" :value="cornerRadius" :min="0" :max="1000" @change="cornerRadius = $event" />
    <NumberField label="Border" unit="px" :value="border" :min="0" :max="200" @change="border = $event" />
    <label class="flex h-7 items-center gap-2"
      ><input v-model="comes" type="checkbox" class="accent-ember" /><span class="text-muted"
        >They come in one by one</span
      ></label
    >
  </section>
</template>
