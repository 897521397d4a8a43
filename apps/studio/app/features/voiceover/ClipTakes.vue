<script setup lang="ts">
import { computed } from 'vue'
import X from '@lucide/vue/dist/esm/icons/x.mjs'
import type { MediaClip } from '@dusk/timeline'
import { useProject } from '~/features/project/projectStore'

/** The takes of a recorded clip: one plays, the others can. */
const props = defineProps<{ clip: MediaClip }>()
const project = useProject()
const takes = computed(() =>
  (props.clip.takes ?? []).map(({ assetId }, i) => ({
    assetId,
    name: project.document?.assets[assetId]?.name.replace(/\.wav$/, '') ?? 'missing',
    number: i + 1,
    plays: assetId === props.clip.assetId,
  })),
)
</script>

<template>
  <section class="space-y-1 border-t border-line py-3">
    <h3 class="font-semibold">Takes</h3>
    <div role="radiogroup" aria-label="Takes of this clip">
      <div v-for="take in takes" :key="take.assetId" class="flex h-7 items-center gap-2">
        <button
          class="key min-w-0 flex-1 justify-start px-2"
          :class="take.plays && 'bg-raised text-lamp'"
          role="radio"
          :aria-checked="take.plays"
          :title="take.plays ? 'This one plays' : 'Play this one'"
          @click="!take.plays && project.perform({ type: 'chooseTake', clipId: clip.id, assetId: take.assetId })"
        >
          <span class="font-mono text-[11px] text-muted">{{ take.number }}</span>
          <span class="truncate">{{ take.name }}</span>
        </button>
        <ToolButton
          v-if="!take.plays"
          :label="`Take ${take.name} off this clip`"
          title="Take it off this clip; the recording stays in the library"
          @click="project.perform({ type: 'removeTake', clipId: clip.id, assetId: take.assetId })"
        >
          <X :size="14" />
        </ToolButton>
      </div>
    </div>
  </section>
</template>
