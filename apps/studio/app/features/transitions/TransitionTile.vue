<script setup lang="ts">
import type { FramePlan, TransitionLayer } from '@dusk/timeline'
import type { TransitionKind } from '@dusk/compositor'

/** A transition of the gallery, drawn on the person's own two shots; it runs while the pointer is on it. */
const props = defineProps<{
  kind: TransitionKind
  /** A frame of the change between the two shots, of any kind; `null` while there are none. */
  sample: FramePlan | null
  version: string
  favourite: boolean
  standard: boolean
  chosen: boolean
}>()
const emit = defineEmits<{ use: []; favour: [] }>()

function planAt(progress: number): FramePlan | null {
  if (!props.sample) return null
  const [layer] = props.sample.layers as [TransitionLayer]
  return { ...props.sample, layers: [{ ...layer, transition: props.kind.id, settings: {}, progress }] }
}
</script>

<template>
  <GalleryTile
    :name="kind.name"
    :title="`${kind.hint} Click to put it on the nearest cut, or drag it to one.`"
    :plan-at="planAt"
    :version="version"
    :data="() => ({ kind: 'transition', id: kind.id })"
    :chosen="chosen"
    @use="emit('use')"
  >
    <span v-if="standard" class="absolute top-1 left-1 rounded-sm bg-ground/85 px-1 text-[10px] text-lamp">by key</span>
    <FavouriteStar :name="kind.name" :favourite="favourite" @toggle="emit('favour')" />
  </GalleryTile>
</template>
