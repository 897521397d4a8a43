<script setup lang="ts">
import { computed } from 'vue'
import type { Animated, GeneratorClip } from '@dusk/timeline'
import { generatorById, GENERATORS } from '@dusk/compositor'
import { pipsAreOff, pipsOf } from './pips'
import { usePips } from './usePips'
import { useProject } from '~/features/project/projectStore'

/** Settings of a picture that is made by rule. */
const props = defineProps<{ clip: GeneratorClip; time: number }>()
const emit = defineEmits<{ go: [clipTime: number] }>()
const project = useProject()
const kind = computed(() => generatorById(props.clip.generator))
const alike = computed(() => GENERATORS.filter((entry) => entry.family === kind.value.family))
const pips = usePips()
const toned = computed(() => pipsOf(project.document!, props.clip).length > 0)
const change = (set: Record<string, Animated | null>) =>
  project.perform({ type: 'setGenerator', clipIds: [props.clip.id], set: set as never })
</script>

<template>
  <div>
    <p class="pt-2 text-muted">{{ kind.hint }}</p>
    <section v-if="alike.length > 1" class="pt-3">
      <ChoiceField
        label="Kind"
        :value="clip.generator"
        :options="alike.map((entry) => ({ value: entry.id, label: entry.name }))"
        @change="project.perform({ type: 'setGenerator', clipIds: [clip.id], generator: $event, set: {} })"
      />
    </section>
    <ParamGroups :params="kind.params" :values="clip.settings" :time="time" @change="change" @go="emit('go', $event)" />
    <button
      v-if="clip.generator === 'countdown'"
      class="mt-3 h-7 w-full rounded-md bg-raised hover:bg-line disabled:opacity-50"
      :disabled="pips.busy.value"
      @click="pips.add(clip, Number(clip.settings.from ?? 10))"
    >
      {{ pips.busy.value ? 'Fetching the tone …' : toned ? 'Lay its tones anew' : 'Add a tone on each second' }}
    </button>
    <p v-if="pipsAreOff(project.document!, clip)" class="mt-1 text-sm text-lamp">
      The tones fall beside the seconds since it was trimmed.
    </p>
  </div>
</template>
