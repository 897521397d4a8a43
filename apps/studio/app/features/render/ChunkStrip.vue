<script setup lang="ts">
import { computed } from 'vue'
import type { ChunkState } from './renderRow'

/** The chunks of a render side by side, as long as they are: made, kept from before, being made and by whom. */
const props = defineProps<{ chunks: readonly ChunkState[] }>()

const LOOKS: Record<ChunkState['state'], { colour: string; words: string }> = {
  kept: { colour: 'bg-dusk', words: 'was there already' },
  ready: { colour: 'bg-moss', words: 'made' },
  working: { colour: 'bg-ember', words: 'being made' },
  waiting: { colour: 'bg-line', words: 'waits' },
}
/** Workers by a letter, in the order in which they came. */
const letters = computed(() => {
  const names = [...new Set(props.chunks.flatMap(({ worker }) => worker ?? []))]
  return new Map(names.map((name, i) => [name, String.fromCharCode(65 + (i % 26))]))
})
const pieces = computed(() =>
  props.chunks.map((chunk) => ({
    ...chunk,
    frames: chunk.end - chunk.first,
    part: chunk.state === 'waiting' ? 0 : chunk.state === 'working' ? chunk.drawn / (chunk.end - chunk.first) : 1,
    title:
      `${chunk.first} to ${chunk.end}: ${LOOKS[chunk.state].words}` +
      (chunk.worker && chunk.state !== 'kept' ? `, worker ${letters.value.get(chunk.worker)} (${chunk.worker})` : ''),
  })),
)
const summary = computed(() => {
  const count = (state: ChunkState['state']) => props.chunks.filter((chunk) => chunk.state === state).length
  const working = new Set(props.chunks.flatMap(({ state, worker }) => (state === 'working' && worker) || []))
  return [
    `${count('ready')} of ${props.chunks.length} parts made`,
    count('kept') > 0 && `${count('kept')} ${count('kept') === 1 ? 'was' : 'were'} there already`,
    working.size > 1 && `${working.size} workers`,
  ]
    .filter(Boolean)
    .join(', ')
})
</script>

<template>
  <div>
    <div class="flex h-4 gap-px overflow-hidden rounded-sm" role="img" :aria-label="summary">
      <span
        v-for="piece in pieces"
        :key="piece.n"
        class="relative min-w-0.5 bg-line"
        :style="{ flex: `${piece.frames} 1 0` }"
        :title="piece.title"
      >
        <span
          class="absolute inset-y-0 left-0"
          :class="[LOOKS[piece.state].colour, piece.silent && 'opacity-40']"
          :style="{ width: `${piece.part * 100}%` }"
        />
        <span
          v-if="piece.state === 'working' && piece.worker && letters.size > 1"
          class="absolute inset-0 text-center font-mono text-[10px] leading-4 text-ivory"
          >{{ letters.get(piece.worker) }}</span
        >
      </span>
    </div>
    <p class="mt-1 text-sm text-muted">{{ summary }}</p>
  </div>
</template>
