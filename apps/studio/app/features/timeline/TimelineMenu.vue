<script setup lang="ts">
import { computed } from 'vue'
import { useFeatures, type MenuItem, type MenuPlace } from '~/features/registry/feature'
import { useShortcuts } from '~/features/shortcuts/shortcutsStore'

/** The menu of a clip or of empty time: what applies there, and nothing else. */
const props = defineProps<{ place: MenuPlace }>()
const emit = defineEmits<{ close: [] }>()
const shortcuts = useShortcuts()
const menus = useFeatures().flatMap((feature) => feature.useMenu?.() ?? [])

/** Items of one order stand together, whichever feature they come from. */
const groups = computed(() => {
  const byOrder = new Map<number, MenuItem[]>()
  for (const menu of menus)
    for (const { order, items } of menu(props.place)) byOrder.set(order, [...(byOrder.get(order) ?? []), ...items])
  return [...byOrder]
    .sort(([a], [b]) => a - b)
    .map(([, items]) =>
      items.map((item) => ({ ...item, keys: item.action ? shortcuts.keyOf(item.action) : undefined })),
    )
})
</script>

<template>
  <ContextMenu :place="place" :groups="groups" label="What can be done here" @close="emit('close')" />
</template>
