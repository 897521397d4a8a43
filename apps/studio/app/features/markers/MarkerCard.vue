<script setup lang="ts">
import { onMounted, ref } from 'vue'
import { formatSeconds, type Marker } from '@dusk/timeline'
import { typedLength } from '~/features/ui/typedLength'
import { useDesk } from '~/features/timeline/deskStore'
import { useNotices } from '~/features/ui/noticesStore'
import { useProject } from '~/features/project/projectStore'

/** What a marker says, to be changed in place. */
const props = defineProps<{ marker: Marker }>()
const emit = defineEmits<{ close: [] }>()
const project = useProject()
const desk = useDesk()
const notices = useNotices()
const field = ref<HTMLInputElement | null>(null)

onMounted(() => field.value?.select())
type Settings = Partial<Pick<Marker, 'name' | 'note' | 'colour' | 'length'>>
const set = (values: Settings) => project.perform({ type: 'setMarker', markerId: props.marker.id, set: values })

function setLength(text: string): void {
  const length = typedLength(text, project.reel!.format.rate, props.marker.length)
  if (length === null) notices.say('A length is typed as 2.5s, 1:04 or 60f.')
  else set({ length })
}
</script>

<template>
  <div
    class="min-w-60 space-y-2 rounded-md border border-line bg-raised p-3"
    role="group"
    :aria-label="`Marker ${marker.name}`"
    @keydown.esc.stop="emit('close')"
    @keydown.stop
    @pointerdown.stop
  >
    <input
      ref="field"
      class="field"
      :value="marker.name"
      maxlength="200"
      aria-label="Name of the marker"
      placeholder="Name"
      @change="set({ name: ($event.target as HTMLInputElement).value.trim() })"
      @keydown.enter="emit('close')"
    />
    <textarea
      class="field h-14 py-1"
      :value="marker.note"
      maxlength="4000"
      aria-label="Note"
      placeholder="Note"
      @change="set({ note: ($event.target as HTMLTextAreaElement).value })"
    />
    <label class="flex items-center gap-2 text-muted"
      >Length
      <input
        class="field w-24 font-mono text-[11px]"
        :value="formatSeconds(marker.length)"
        @change="setLength(($event.target as HTMLInputElement).value.replace(' ', ''))"
      />
    </label>
    <LabelPicker :value="marker.colour" @change="$event && set({ colour: $event })" />
    <div class="flex justify-between">
      <button
        class="key px-2 text-rose"
        @click="(emit('close'), project.perform({ type: 'removeMarkers', markerIds: [marker.id] }))"
      >
        Remove
      </button>
      <button
        v-if="marker.reelId && marker.length > 0"
        class="key px-2"
        @click="desk.range = { from: marker.at, to: marker.at + marker.length }"
      >
        Mark this range
      </button>
      <button class="key key-line px-2" @click="emit('close')">Done</button>
    </div>
  </div>
</template>
