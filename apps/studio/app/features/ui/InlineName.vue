<script setup lang="ts">
import { nextTick, ref } from 'vue'

/** A name that is changed where it stands. Enter or leaving keeps it, Escape gives up; an empty one changes nothing. */
// A class is meant for the field: what stands there otherwise brings its own.
defineOptions({ inheritAttrs: false })
const props = defineProps<{ value: string; label: string }>()
const emit = defineEmits<{ rename: [name: string] }>()
const open = ref(false)
const field = ref<HTMLInputElement | null>(null)

async function begin(): Promise<void> {
  open.value = true
  await nextTick()
  field.value?.select()
}

function end(): void {
  const name = field.value?.value.trim() ?? ''
  if (open.value && name && name !== props.value) emit('rename', name)
  open.value = false
}

defineExpose({ begin })
</script>

<template>
  <input
    v-if="open"
    ref="field"
    v-bind="$attrs"
    class="field min-w-0"
    :value="value"
    maxlength="200"
    :aria-label="label"
    @blur="end"
    @keydown.enter="end"
    @keydown.esc="open = false"
    @keydown.stop
  />
  <slot v-else :begin="begin" />
</template>
