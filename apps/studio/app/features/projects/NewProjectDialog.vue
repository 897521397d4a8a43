<script setup lang="ts">
import { computed, ref } from 'vue'
import { formatRate, REEL_RATES, type Format } from '@dusk/timeline'
import { SHAPES, SHORT_SIDES, sizeFor } from '~/features/ui/sizes'

defineProps<{ open: boolean }>()
const emit = defineEmits<{ close: []; create: [name: string, format: Format] }>()

const name = ref('')
const shape = ref<string>('16:9')
const side = ref<number>(1080)
const rate = ref(4)
const custom = ref({ width: 1920, height: 1080 })

const size = computed(() => {
  const found = SHAPES.find((entry) => entry.ratio === shape.value)
  return found ? sizeFor(found, side.value) : custom.value
})
const wrong = computed(() => {
  const { width, height } = size.value
  if ([width, height].some((value) => !Number.isInteger(value) || value < 16 || value > 8192))
    return 'Width and height go from 16 to 8192.'
  if (width % 2 || height % 2) return 'Width and height have to be even numbers.'
  return null
})

function create(): void {
  if (wrong.value) return
  emit('create', name.value.trim() || 'Untitled reel', { ...size.value, rate: REEL_RATES[rate.value]! })
}
</script>

<template>
  <DialogFrame :open="open" title="New project" @close="emit('close')">
    <form class="mt-4 space-y-4" @submit.prevent="create">
      <label class="block">
        <span class="text-muted">Name</span>
        <input v-model="name" class="field mt-1" placeholder="Untitled reel" maxlength="200" />
      </label>
      <fieldset>
        <legend class="text-muted">Shape</legend>
        <div class="mt-1 grid grid-cols-7 gap-2">
          <button
            v-for="entry in [...SHAPES, { name: 'Own', ratio: 'own', width: 12, height: 9 }]"
            :key="entry.ratio"
            type="button"
            class="flex flex-col items-center gap-1 rounded-md border py-2"
            :class="shape === entry.ratio ? 'border-dusk bg-raised' : 'border-line'"
            :aria-pressed="shape === entry.ratio"
            @click="shape = entry.ratio"
          >
            <span class="flex h-9 items-center"
              ><span
                class="block rounded-[2px] border border-muted"
                :style="{
                  width: `${(30 * entry.width) / Math.max(entry.width, entry.height)}px`,
                  height: `${(30 * entry.height) / Math.max(entry.width, entry.height)}px`,
                }"
            /></span>
            <span class="text-sm">{{ entry.name }}</span>
          </button>
        </div>
      </fieldset>
      <div class="grid grid-cols-2 gap-4">
        <ChoiceField
          v-if="shape !== 'own'"
          label="Size"
          :value="side"
          :options="
            SHORT_SIDES.slice(1).map((value) => ({
              value,
              label: `${
                sizeFor(
                  SHAPES.find((s) => s.ratio === shape)!,
                  value,
                ).width
              } × ${
                sizeFor(
                  SHAPES.find((s) => s.ratio === shape)!,
                  value,
                ).height
              }`,
            }))
          "
          @change="side = $event"
        />
        <div v-else class="flex items-center gap-2">
          <input v-model.number="custom.width" class="field font-mono" type="number" aria-label="Width in pixels" /> ×
          <input v-model.number="custom.height" class="field font-mono" type="number" aria-label="Height in pixels" />
        </div>
        <ChoiceField
          label="Frames/s"
          :value="rate"
          :options="REEL_RATES.map((entry, value) => ({ value, label: formatRate(entry) }))"
          @change="rate = $event"
        />
      </div>
      <p v-if="wrong" class="text-rose">{{ wrong }}</p>
      <div class="flex justify-end gap-2 pt-2">
        <button type="button" class="key key-line" @click="emit('close')">Cancel</button>
        <button class="key key-ember px-4" :disabled="!!wrong">Create</button>
      </div>
    </form>
  </DialogFrame>
</template>
