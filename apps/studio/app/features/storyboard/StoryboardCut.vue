<script setup lang="ts">
import { dropTargetForElements } from '@atlaskit/pragmatic-drag-and-drop/element/adapter'
import { computed, onBeforeUnmount, onMounted, ref } from 'vue'
import Blend from '@lucide/vue/dist/esm/icons/blend.mjs'
import Plus from '@lucide/vue/dist/esm/icons/plus.mjs'
import { TRANSITIONS } from '@dusk/compositor'
import { formatSeconds, type Clip } from '@dusk/timeline'
import { useProject } from '~/features/project/projectStore'
import { useDesk } from '~/features/timeline/deskStore'
import { useTransitions } from '~/features/transitions/transitionsStore'
import { useTransitionActions } from '~/features/transitions/useTransitionActions'

/** The cut between two cards: its transition, or a place to put one; one dragged from the gallery is dropped here. */
const props = defineProps<{ left: Clip; right: Clip }>()
const project = useProject()
const desk = useDesk()
const store = useTransitions()
const act = useTransitionActions()
const button = ref<HTMLElement | null>(null)
const over = ref(false)

const transition = computed(() =>
  Object.values(project.document?.transitions ?? {}).find(
    ({ leftId, rightId }) => leftId === props.left.id && rightId === props.right.id,
  ),
)
const nameOf = (kind: string) => TRANSITIONS.find((entry) => entry.id === kind)?.name ?? kind
const words = computed(() => {
  const found = transition.value
  if (found) return `${nameOf(found.kind)}, ${formatSeconds(found.before + found.after)}`
  return `Put a transition here: ${nameOf(store.preferences.standard)}`
})

function put(kind: string): void {
  const { left, right } = props
  act.put([{ trackId: right.trackId, left, right, at: right.start }], kind)
}
function press(): void {
  if (transition.value) desk.selectTransitions([transition.value.id])
  else put(store.preferences.standard)
}

let stop = () => {}
onMounted(() => {
  void store.load()
  stop = dropTargetForElements({
    element: button.value!,
    canDrop: ({ source }) => source.data.kind === 'transition',
    onDragEnter: () => (over.value = true),
    onDragLeave: () => (over.value = false),
    onDrop: ({ source }) => ((over.value = false), put(String(source.data.id))),
  })
})
onBeforeUnmount(() => stop())
</script>

<template>
  <button
    ref="button"
    class="absolute top-9 -left-[15px] z-10 grid size-[18px] place-items-center rounded-full border bg-raised"
    :class="[
      transition ? 'text-ivory' : 'text-muted opacity-40 hover:opacity-100 focus-visible:opacity-100',
      over || (transition && desk.transitions.has(transition.id)) ? 'border-dusk opacity-100' : 'border-line',
    ]"
    :title="words"
    :aria-label="words"
    @click="press"
  >
    <Blend v-if="transition" :size="11" /><Plus v-else :size="11" />
  </button>
</template>
