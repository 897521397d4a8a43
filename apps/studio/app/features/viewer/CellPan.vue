<script setup lang="ts">
import { fitScale, type MediaClip, type Params } from '@dusk/timeline'
import { computed } from 'vue'
import { croppedAway, panned } from './cells'
import { useProject } from '~/features/project/projectStore'

/** Moves a cropped picture under its crop: the cell stays, another part of the picture is seen in it. */
const props = defineProps<{ clip: MediaClip }>()
const project = useProject()
const params = computed(() => props.clip.params as Params)
const cropped = computed(() => croppedAway(props.clip))
const value = (key: string) => (typeof params.value[key] === 'number' ? (params.value[key] as number) : 0)
/** −100 shows the left or upper edge, 100 the right or lower one. */
const pan = (first: number, both: number) => (both > 0 ? Math.round((first / both) * 200 - 100) : 0)
const can = computed(() => cropped.value.across > 0.1 || cropped.value.down > 0.1)

function set(axis: 0 | 1, to: number): void {
  const picture = project.document!.assets[props.clip.assetId]!.picture!
  const scale = fitScale(picture, project.reel!.format, props.clip.fit ?? project.reel!.fit)
  const both = axis === 0 ? cropped.value.across : cropped.value.down
  const size = typeof params.value.size === 'number' ? params.value.size : 100
  const length = (axis === 0 ? picture.width : picture.height) * scale[axis]! * (size / 100)
  const by = ((value(axis === 0 ? 'cropLeft' : 'cropTop') - (both * (to + 100)) / 200) / 100) * length
  const change = panned(project.document!, props.clip, axis === 0 ? [by, 0] : [0, by])
  project.perform({ type: 'setParams', clipIds: [props.clip.id], set: change as never })
}
</script>

<template>
  <section v-if="can" class="space-y-1.5 border-t border-line py-3">
    <h3 class="font-semibold">Part that is seen</h3>
    <NumberField
      v-if="cropped.across > 0.1"
      label="Left – right"
      unit="%"
      :value="pan(value('cropLeft'), cropped.across)"
      :min="-100"
      :max="100"
      @change="set(0, $event)"
    />
    <NumberField
      v-if="cropped.down > 0.1"
      label="Up – down"
      unit="%"
      :value="pan(value('cropTop'), cropped.down)"
      :min="-100"
      :max="100"
      @change="set(1, $event)"
    />
  </section>
</template>
