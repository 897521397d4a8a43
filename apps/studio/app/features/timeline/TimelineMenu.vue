<script setup lang="ts">
import { useEventListener } from '@vueuse/core'
import { computed, nextTick, onMounted, ref } from 'vue'
import { useFeatures, type MenuItem, type MenuPlace } from '~/features/registry/feature'
import { useShortcuts } from '~/features/shortcuts/shortcutsStore'

/** The menu of a clip or of empty time: what applies there, and nothing else. */
const props = defineProps<{ place: MenuPlace }>()
const emit = defineEmits<{ close: [] }>()
const shortcuts = useShortcuts()
const list = ref<HTMLElement | null>(null)
const menus = useFeatures().flatMap((feature) => feature.useMenu?.() ?? [])

/** Items of one order stand together, whichever feature they come from. */
const shown = computed<MenuItem[][]>(() => {
  const byOrder = new Map<number, MenuItem[]>()
  for (const menu of menus)
    for (const { order, items } of menu(props.place)) byOrder.set(order, [...(byOrder.get(order) ?? []), ...items])
  return [...byOrder]
    .sort(([a], [b]) => a - b)
    .map(([, items]) => items)
    .filter((items) => items.length > 0)
})

/** Kept inside the page, above the pointer where there is no room below. */
const style = computed(() => {
  const rows = shown.value.reduce((sum, group) => sum + group.length, 0)
  const height = rows * 26 + shown.value.length * 9 + 8
  const x = Math.min(props.place.x, window.innerWidth - 280)
  const y = props.place.y + height > window.innerHeight ? Math.max(8, props.place.y - height) : props.place.y
  return { left: `${x}px`, top: `${y}px` }
})

const items = () => [...(list.value?.querySelectorAll<HTMLElement>('[role="menuitem"]') ?? [])]
onMounted(() => void nextTick(() => items()[0]?.focus({ preventScroll: true })))

function key(event: KeyboardEvent): void {
  const all = items()
  const now = all.indexOf(document.activeElement as HTMLElement)
  if (event.key === 'ArrowDown') all[(now + 1) % all.length]?.focus()
  else if (event.key === 'ArrowUp') all[(now - 1 + all.length) % all.length]?.focus()
  else if (event.key === 'Escape' || event.key === 'Tab') emit('close')
  else return
  event.preventDefault()
  event.stopPropagation()
}
useEventListener(window, 'pointerdown', (event) => {
  if (!list.value?.contains(event.target as Node)) emit('close')
})

function choose(item: MenuItem): void {
  emit('close')
  item.run()
}
</script>

<template>
  <div
    ref="list"
    class="fixed z-40 w-68 rounded-md border border-line bg-raised py-1"
    role="menu"
    aria-label="What can be done here"
    :style="style"
    @keydown="key"
    @contextmenu.prevent
  >
    <div v-for="(group, i) in shown" :key="i" role="none" :class="i > 0 && 'mt-1 border-t border-line pt-1'">
      <button
        v-for="item in group"
        :key="item.label"
        class="flex h-6.5 w-full items-center justify-between gap-3 px-3 text-left hover:bg-line focus:bg-line"
        role="menuitem"
        @click="choose(item)"
      >
        {{ item.label }}
        <span class="font-mono text-[10px] text-muted">{{ item.action ? shortcuts.keyOf(item.action) : '' }}</span>
      </button>
    </div>
  </div>
</template>
