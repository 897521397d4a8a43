<script setup lang="ts">
import { useEventListener } from '@vueuse/core'
import { computed, nextTick, onMounted, ref } from 'vue'

/** A right-click menu: groups of items, kept inside the page; the arrows choose. */
const props = defineProps<{
  /** Where it was opened, in pixels of the page. */
  place: { x: number; y: number }
  groups: readonly (readonly { label: string; keys?: string; run: () => void }[])[]
  label: string
}>()
const emit = defineEmits<{ close: [] }>()
const list = ref<HTMLElement | null>(null)
/** Out of whatever it was opened in, which may cut it off, but still within what the page is about. */
const ground = document.querySelector<HTMLElement>('main') ?? document.body

/** Above the pointer where there is no room below. */
const style = computed(() => {
  const rows = props.groups.reduce((sum, group) => sum + group.length, 0)
  const height = rows * 26 + props.groups.length * 9 + 8
  const x = Math.max(8, Math.min(props.place.x, window.innerWidth - 280))
  const above = Math.max(8, Math.min(props.place.y - height, window.innerHeight - height - 8))
  const y = props.place.y + height > window.innerHeight ? above : props.place.y
  return { left: `${x}px`, top: `${y}px`, maxHeight: `calc(100vh - ${y}px - 8px)` }
})

const items = () => [...(list.value?.querySelectorAll<HTMLElement>('[role="menuitem"]') ?? [])]
const before = document.activeElement
onMounted(() => void nextTick(() => items()[0]?.focus({ preventScroll: true })))

function close(): void {
  if (before instanceof HTMLElement && before.isConnected) before.focus({ preventScroll: true })
  emit('close')
}

function key(event: KeyboardEvent): void {
  const all = items()
  const now = all.indexOf(document.activeElement as HTMLElement)
  if (event.key === 'ArrowDown') all[(now + 1) % all.length]?.focus()
  else if (event.key === 'ArrowUp') all[(now - 1 + all.length) % all.length]?.focus()
  else if (event.key === 'Home') all[0]?.focus()
  else if (event.key === 'End') all.at(-1)?.focus()
  else if (event.key === 'Escape' || event.key === 'Tab') close()
  else return
  event.preventDefault()
  event.stopPropagation()
}
useEventListener(window, 'pointerdown', (event) => {
  if (!list.value?.contains(event.target as Node)) emit('close')
})

function choose(run: () => void): void {
  close()
  run()
}
</script>

<template>
  <Teleport :to="ground">
    <div
      ref="list"
      class="fixed z-40 w-68 overflow-auto rounded-md border border-line bg-raised py-1 text-base text-ivory"
      role="menu"
      :aria-label="label"
      :style="style"
      @keydown="key"
      @contextmenu.prevent
    >
      <div
        v-for="(group, i) in groups.filter((entry) => entry.length > 0)"
        :key="i"
        role="none"
        :class="i > 0 && 'mt-1 border-t border-line pt-1'"
      >
        <button
          v-for="item in group"
          :key="item.label"
          class="flex h-6.5 w-full items-center justify-between gap-3 px-3 text-left hover:bg-line focus:bg-line"
          role="menuitem"
          @click="choose(item.run)"
        >
          {{ item.label }}
          <span class="font-mono text-[10px] text-muted">{{ item.keys }}</span>
        </button>
      </div>
    </div>
  </Teleport>
</template>
