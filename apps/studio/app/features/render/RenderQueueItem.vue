<script setup lang="ts">
import { combine } from '@atlaskit/pragmatic-drag-and-drop/combine'
import { draggable, dropTargetForElements } from '@atlaskit/pragmatic-drag-and-drop/element/adapter'
import GripVertical from '@lucide/vue/dist/esm/icons/grip-vertical.mjs'
import { onBeforeUnmount, onMounted, ref } from 'vue'
import type { RenderRow } from './renderRow'

/** A render in the order in which they are made; those that wait are dragged, or moved by arrow keys. */
const props = defineProps<{ render: RenderRow; movable: boolean }>()
const emit = defineEmits<{
  /** Another render was dropped on this one. */
  take: [id: string]
  /** One place up or down. */
  step: [by: -1 | 1]
}>()

const item = ref<HTMLElement | null>(null)
const grip = ref<HTMLElement | null>(null)
const over = ref(false)
let stop = () => {}

onMounted(() => {
  stop = combine(
    draggable({
      element: item.value!,
      dragHandle: grip.value!,
      canDrag: () => props.movable,
      getInitialData: () => ({ kind: 'render', id: props.render.id }),
    }),
    dropTargetForElements({
      element: item.value!,
      canDrop: ({ source }) => source.data.kind === 'render' && source.data.id !== props.render.id && props.movable,
      onDragEnter: () => (over.value = true),
      onDragLeave: () => (over.value = false),
      onDrop: ({ source }) => {
        over.value = false
        emit('take', source.data.id as string)
      },
    }),
  )
})
onBeforeUnmount(() => stop())
</script>

<template>
  <div ref="item" class="flex items-stretch gap-1 rounded-md" :class="over && 'outline outline-2 outline-dusk'">
    <button
      v-show="movable"
      ref="grip"
      class="key cursor-grab px-1 text-muted"
      :aria-label="`Move ${render.name}: arrow up, arrow down`"
      title="Drag into order, or press an arrow key"
      @keydown.up.prevent="emit('step', -1)"
      @keydown.down.prevent="emit('step', 1)"
    >
      <GripVertical :size="16" />
    </button>
    <div class="min-w-0 grow"><slot /></div>
  </div>
</template>
