<script setup lang="ts">
import { ref } from 'vue'
import type { Clip } from '@dusk/timeline'
import { useQuickFix } from './useQuickFix'

/** Light, colour and noise put right by one click each; what was done stands among the effects. */
const props = defineProps<{ clip: Clip }>()
const fix = useQuickFix()
const busy = ref(false)
async function run(act: (clip: Clip) => void | Promise<void>): Promise<void> {
  busy.value = true
  try {
    await act(props.clip)
  } finally {
    busy.value = false
  }
}
</script>

<template>
  <section class="border-t border-line py-2" aria-label="Quick fix">
    <h3 class="font-semibold">Quick fix</h3>
    <div class="flex flex-wrap gap-1 pt-1">
      <button class="key h-7 px-2" :disabled="busy" title="Black, white and the middle" @click="run(fix.light)">
        Light
      </button>
      <button class="key h-7 px-2" :disabled="busy" title="Takes a colour cast out" @click="run(fix.colour)">
        Colour
      </button>
      <button class="key h-7 px-2" :disabled="busy" title="Calms noise, keeps edges" @click="run(fix.noise)">
        Noise
      </button>
      <button
        class="key h-7 px-2"
        :disabled="busy"
        title="Makes it look like what is under the playhead"
        @click="run(fix.match)"
      >
        Match to playhead
      </button>
    </div>
  </section>
</template>
