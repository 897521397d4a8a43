<script setup lang="ts">
import { formatRate, formatShort, type Asset } from '@dusk/timeline'
import { formatBytes } from '~/features/ui/sizes'

/** A source in the library as a line of a list. */
defineProps<{ asset: Asset; bytes: number; used: boolean; selected: boolean }>()
</script>

<template>
  <div
    class="@container flex h-7 items-center gap-2 rounded-md px-1.5 text-sm"
    :class="selected ? 'bg-raised' : 'hover:bg-raised/60'"
  >
    <span
      class="size-2 shrink-0 rounded-full"
      :style="{ background: asset.label ? `var(--color-${asset.label})` : 'transparent' }"
    />
    <span class="min-w-0 flex-1 truncate">{{ asset.name }}</span>
    <span
      v-if="used"
      class="size-1.5 shrink-0 rounded-full bg-moss"
      role="img"
      aria-label="in the reel"
      title="In the reel"
    />
    <span class="hidden w-14 @sm:inline truncate text-right text-[11px] text-muted">{{
      asset.picture ? `${asset.picture.height}p${asset.picture.rate ? ` ${formatRate(asset.picture.rate)}` : ''}` : ''
    }}</span>
    <span class="w-10 text-right font-mono text-[10px] text-muted">{{
      asset.kind === 'still' ? 'still' : formatShort(asset.length)
    }}</span>
    <span class="hidden w-14 text-right font-mono text-[10px] text-muted @md:inline">{{ formatBytes(bytes) }}</span>
  </div>
</template>
