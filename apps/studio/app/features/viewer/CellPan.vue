<script setup lang="ts">
import { fitScale, isAnimated, type MediaClip, type Params } from '@dusk/timeline'
import { computed } from 'vue'
import { useProject } from '~/features/project/projectStore'

/** Moves a cropped picture under its crop: the cell stays, another part of the picture is seen in it. */
const props = defineProps<{ clip: MediaClip }>()
const project = useProject()
const value = (key: string) => {
  const set = (props.clip.params as Params)[key]
  return typeof set === 'number' ? set : 0
}
const across = computed(() => value('cropLeft') + value('cropRight'))
const down = computed(() => value('cropTop') + value('cropBottom'))
/** −100 shows the left or upper edge, 100 the right or lower one. */
const pan = (first: number, both: number) => (both > 0 ? Math.round((first / both) * 200 - 100) : 0)
const can = computed(
  () => !isAnimated((props.clip.params as Params).position ?? 0) && (across.value > 0.1 || down.value > 0.1),
)

function set(axis: 0 | 1, to: number): void {
  const picture = project.document!.assets[props.clip.assetId]!.picture!
  const scale = fitScale(picture, project.reel!.format, props.clip.fit ?? project.reel!.fit)
  const [first, second] = axis === 0 ? (['cropLeft', 'cropRight'] as const) : (['cropTop', 'cropBottom'] as const)
  const both = axis === 0 ? across.value : down.value
  const next = (both * (to + 100)) / 200
  const size = ((props.clip.params as Params).size as number | undefined) ?? 100
  const moved =
    ((value(first) - next) / 100) * (axis === 0 ? picture.width : picture.height) * scale[axis]! * (size / 100)
  const old = ((props.clip.params as Params).position as [number, number] | undefined) ?? [0, 0]
  const position = axis === 0 ? [old[0] + moved, old[1]] : [old[0], old[1] + moved]
  project.perform({
    type: 'setParams',
    clipIds: [props.clip.id],
    set: { [first]: next, [second]: both - next, position: position as [number, number] },
  })
}
</script>

<template>
  <section v-if="can" class="space-y-1.5 border-t border-line py-3">
    <h3 class="font-semibold">Part that is seen</h3>
    <NumberField
      v-if="across > 0.1"
      label="Left – right"
      unit="%"
      :value="pan(value('cropLeft'), across)"
      :min="-100"
      :max="100"
      @change="set(0, $event)"
    />
    <NumberField
      v-if="down > 0.1"
      label="Up – down"
      unit="%"
      :value="pan(value('cropTop'), down)"
      :min="-100"
      :max="100"
      @change="set(1, $event)"
    />
  </section>
</template>
