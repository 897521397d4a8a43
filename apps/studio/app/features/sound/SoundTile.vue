<script setup lang="ts">
import { draggable } from '@atlaskit/pragmatic-drag-and-drop/element/adapter'
import { onBeforeUnmount, onMounted, ref } from 'vue'
import Pencil from '@lucide/vue/dist/esm/icons/pencil.mjs'
import X from '@lucide/vue/dist/esm/icons/x.mjs'
import type { SoundEffectKind } from '@dusk/sound'
import type { Params } from '@dusk/timeline'
import EffectPlot from './EffectPlot.vue'

/** An effect with settings: what it does to the sound as a small curve, where it has one. */
const props = defineProps<{ kind: SoundEffectKind; name: string; settings: Params; own: boolean }>()
defineEmits<{ use: []; dropOwn: []; rename: [name: string] }>()
const tile = ref<HTMLElement | null>(null)
let stop = () => {}
onMounted(() => {
  stop = draggable({
    element: tile.value!,
    getInitialData: () => ({
      kind: 'sound',
      sound: { kind: props.kind.id, settings: props.settings },
      name: `${props.kind.name}, ${props.name.toLowerCase()}`,
    }),
  })
})
onBeforeUnmount(() => stop())
</script>

<template>
  <li ref="tile" class="group relative">
    <button
      class="tile flex h-12 flex-col justify-end px-2 pb-1 text-left"
      :title="`${kind.hint} Click to put it on.`"
      @click="$emit('use')"
    >
      <EffectPlot
        v-if="kind.response || kind.transfer"
        class="absolute inset-x-0 top-0 h-8 opacity-60"
        :kind="kind"
        :settings="settings"
        small
      />
      <span v-if="!own" class="relative truncate text-sm">{{ name }}</span>
    </button>
    <div v-if="own" class="pointer-events-none absolute inset-x-2 bottom-1 flex h-5 items-center text-sm">
      <InlineName
        v-slot="{ begin }"
        class="pointer-events-auto h-6"
        :value="name"
        label="Name of the preset"
        @rename="$emit('rename', $event)"
      >
        <span class="truncate">{{ name }}</span>
        <button
          class="pointer-events-auto ml-1 shrink-0 text-muted opacity-0 group-hover:opacity-100 focus:opacity-100"
          :aria-label="`Rename ${name}`"
          title="Rename"
          @click="begin"
        >
          <Pencil :size="12" />
        </button>
      </InlineName>
    </div>
    <button
      v-if="own"
      class="tile-corner opacity-0 group-hover:opacity-100 focus:opacity-100"
      :aria-label="`Remove ${name} from your presets`"
      title="Remove from your presets"
      @click="$emit('dropOwn')"
    >
      <X :size="13" />
    </button>
  </li>
</template>
