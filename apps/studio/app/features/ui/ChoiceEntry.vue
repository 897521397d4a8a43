<script setup lang="ts">
import type { Choice } from './choice'

/** An entry of a list that one is chosen from. */
defineProps<{ entry: Choice<string | number>; active: boolean; selected: boolean }>()
</script>

<template>
  <li class="cursor-pointer px-2 py-1" :class="active && 'bg-line'">
    <span class="flex justify-between gap-3" :class="selected && 'text-lamp'">
      <span class="truncate" :style="entry.style">{{ entry.label }}</span>
      <span v-if="entry.shortcut" class="font-mono text-[10px] text-muted">{{ entry.shortcut }}</span>
    </span>
    <span v-if="entry.hint" class="text-sm text-muted">{{ entry.hint }}</span>
  </li>
</template>
