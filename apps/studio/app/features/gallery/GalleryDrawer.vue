<script setup lang="ts">
import { useMousePressed, useScroll } from '@vueuse/core'
import FoldVertical from '@lucide/vue/dist/esm/icons/fold-vertical.mjs'
import UnfoldVertical from '@lucide/vue/dist/esm/icons/unfold-vertical.mjs'
import { ref, watch } from 'vue'
import { useDesk } from '~/features/timeline/deskStore'

/**
 * A drawer of things to choose from. What finds them stays at its head; filters fold to one line, and hints go, once it
 * is scrolled. It can take the whole height beside the timeline.
 */
defineProps<{
  name: string
  /** Attributes of the list that scrolls. */
  list?: Record<string, unknown>
}>()
const desk = useDesk()
const scroller = ref<HTMLElement | null>(null)
const { y } = useScroll(scroller)
/** Pixels to be scrolled before anything folds. */
const FOLD = 32
/** Least pixels out of sight: what folds must not make the whole list fit, or it would unfold at once. */
const LEAST = 200
const folded = ref(false)
const { pressed } = useMousePressed({ target: scroller })
// Not between press and release: the list would move away from under the pointer, and the click be lost.
watch([y, pressed], () => {
  const list = scroller.value
  if (!pressed.value) folded.value = y.value > FOLD && list !== null && list.scrollHeight - list.clientHeight > LEAST
})
defineExpose({ scroller })
</script>

<template>
  <section
    class="flex h-full flex-col bg-panel"
    :aria-label="name"
    tabindex="-1"
    data-focus-home
    :data-folded="folded || undefined"
  >
    <header class="px-3 pt-3">
      <div class="flex items-center gap-0.5">
        <h2 class="mr-auto min-w-0 truncate font-display text-lg font-semibold">{{ name }}</h2>
        <slot name="actions" />
        <button
          class="key px-1.5"
          :aria-pressed="desk.drawerTall"
          :aria-label="desk.drawerTall ? 'Beside the viewer only' : 'Whole height, beside the timeline'"
          :title="desk.drawerTall ? 'Beside the viewer only' : 'Whole height, beside the timeline'"
          @click="desk.drawerTall = !desk.drawerTall"
        >
          <FoldVertical v-if="desk.drawerTall" :size="16" /><UnfoldVertical v-else :size="16" />
        </button>
      </div>
      <div v-if="$slots.find" class="pt-2"><slot name="find" /></div>
      <div
        v-if="$slots.chips"
        class="flex gap-1 pt-2"
        :class="folded ? 'flex-nowrap overflow-x-auto whitespace-nowrap [scrollbar-width:none]' : 'flex-wrap'"
        role="group"
        :aria-label="`Kind of ${name.toLowerCase()}`"
      >
        <slot name="chips" />
      </div>
      <div v-if="$slots.filters" v-show="!folded" class="space-y-2 pt-2"><slot name="filters" /></div>
    </header>
    <div ref="scroller" class="relative min-h-0 flex-1 overflow-auto px-3 pb-3" v-bind="list"><slot /></div>
  </section>
</template>
