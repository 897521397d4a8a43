<script setup lang="ts">
import X from '@lucide/vue/dist/esm/icons/x.mjs'
import { onScopeDispose, ref, watch } from 'vue'
import { usePlayer } from '~/features/player/usePlayhead'
import { useScopes } from './scopesStore'

/** Waveform, parade, vectorscope and histogram of what is shown, in one column. */
const scopes = useScopes()
const player = usePlayer()
let stop: (() => void) | null = null
watch(
  () => scopes.open,
  (open) => {
    stop?.()
    stop = open ? player.watchScopes() : null
  },
  { immediate: true },
)
watch(
  () => scopes.zebra,
  (zebra) => player.look({ zebra }),
)
/** How often a frame was counted, for measuring. */
const counted = ref(0)
watch(player.scopes, (now) => now && counted.value++)
onScopeDispose(() => stop?.())
const percent = (part: number) => `${(part * 100).toFixed(1)} %`
</script>

<template>
  <aside
    v-if="scopes.open"
    class="flex w-44 shrink-0 flex-col gap-2 overflow-auto border-l border-line bg-panel p-2"
    aria-label="Scopes"
    :data-counted="counted"
  >
    <div class="flex items-center">
      <h2 class="min-w-0 flex-1 font-semibold">Scopes</h2>
      <ToolButton title="Close the scopes" label="Close the scopes" @click="scopes.open = false"
        ><X :size="14"
      /></ToolButton>
    </div>
    <ScopeTrace kind="luma" label="Waveform" :scopes="player.scopes.value" />
    <ScopeTrace kind="parade" label="Red, green, blue" :scopes="player.scopes.value" />
    <ScopeTrace kind="vector" label="Colours" :scopes="player.scopes.value" />
    <ScopeTrace kind="histogram" label="Histogram" :scopes="player.scopes.value" />
    <p v-if="player.scopes.value" class="text-sm text-muted">
      Nothing left in
      <span :class="player.scopes.value.dark > 0.01 && 'text-rose'">{{ percent(player.scopes.value.dark) }}</span>
      below,
      <span :class="player.scopes.value.bright > 0.01 && 'text-rose'">{{ percent(player.scopes.value.bright) }}</span>
      above.
    </p>
    <label class="flex h-6 items-center gap-2 text-sm">
      <input v-model="scopes.zebra" type="checkbox" class="accent-ember" /> Stripes over it
    </label>
  </aside>
</template>
