<script setup lang="ts">
import { computed } from 'vue'
import ChevronLeft from '@lucide/vue/dist/esm/icons/chevron-left.mjs'
import ChevronRight from '@lucide/vue/dist/esm/icons/chevron-right.mjs'
import Diamond from '@lucide/vue/dist/esm/icons/diamond.mjs'
import { isAnimated, keyAt, type Animated } from '@dusk/timeline'

/** Sets and removes a keyframe of one value at the playhead, and goes from one to the next. */
const props = defineProps<{ label: string; value: Animated; time: number }>()
const emit = defineEmits<{ toggle: []; go: [clipTime: number] }>()

const times = computed(() => (isAnimated(props.value) ? props.value.keys.map((key) => key.at) : []))
const here = computed(() => keyAt(props.value, props.time) !== null)
const before = computed(() => times.value.filter((at) => at < props.time).at(-1))
const after = computed(() => times.value.find((at) => at > props.time))
</script>

<template>
  <span :class="times.length === 0 && 'calm:hidden'" class="flex shrink-0 items-center">
    <button
      v-if="times.length"
      class="grid h-6 w-3.5 place-items-center text-muted enabled:hover:text-ivory disabled:opacity-25"
      :disabled="before === undefined"
      :aria-label="`Previous keyframe of ${label}`"
      title="Previous keyframe"
      @click="emit('go', before!)"
    >
      <ChevronLeft :size="12" />
    </button>
    <button
      class="grid size-6 place-items-center hover:text-lamp"
      :class="times.length ? 'text-lamp' : 'text-line'"
      :aria-pressed="here"
      :aria-label="here ? `Remove the keyframe of ${label}` : `Set a keyframe of ${label}`"
      :title="
        here
          ? 'Remove this keyframe'
          : times.length
            ? 'Set a keyframe here'
            : 'Let this change over time: set the first keyframe'
      "
      @click="emit('toggle')"
    >
      <Diamond :size="12" :fill="here ? 'currentColor' : 'none'" />
    </button>
    <button
      v-if="times.length"
      class="grid h-6 w-3.5 place-items-center text-muted enabled:hover:text-ivory disabled:opacity-25"
      :disabled="after === undefined"
      :aria-label="`Next keyframe of ${label}`"
      title="Next keyframe"
      @click="emit('go', after!)"
    >
      <ChevronRight :size="12" />
    </button>
  </span>
</template>
