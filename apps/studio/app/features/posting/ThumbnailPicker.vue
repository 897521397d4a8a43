<script setup lang="ts">
import { refDebounced, useFileDialog, useObjectUrl } from '@vueuse/core'
import ImagePlus from '@lucide/vue/dist/esm/icons/image-plus.mjs'
import { computed, ref } from 'vue'
import { clock, type PostLimits } from '@dusk/interchange'
import { formatBytes } from '~/features/ui/sizes'

/** The picture that stands for a film: one out of it, or a file. */
const props = defineProps<{ renderId: string; seconds: number; limits: PostLimits['thumbnail'] | null }>()
/** Where in the film it is, in seconds; or a file. */
const chosen = defineModel<number | File>({ required: true })
const wrong = ref<string | null>(null)

const at = computed(() => (typeof chosen.value === 'number' ? chosen.value : null))
// A picture is sought for where the slider rests, not for all that it passes.
const resting = refDebounced(at, 150)
const own = useObjectUrl(computed(() => (typeof chosen.value === 'number' ? null : chosen.value)))
const shown = computed(
  () => own.value ?? `/api/renders/${props.renderId}/picture?at=${(resting.value ?? 0).toFixed(2)}`,
)

const dialog = useFileDialog({ multiple: false, reset: true, accept: 'image/jpeg,image/png,image/webp' })
dialog.onChange((files) => {
  const file = files?.[0]
  if (!file) return
  wrong.value = faultOf(file)
  if (wrong.value === null) chosen.value = file
})
function faultOf(file: File): string | null {
  if (!props.limits) return null
  if (!props.limits.kinds.includes(file.type)) return `${file.name} is no JPEG, PNG or WebP.`
  if (file.size <= props.limits.maxBytes) return null
  return `${file.name} is ${formatBytes(file.size)}; a thumbnail is ${formatBytes(props.limits.maxBytes)} at most.`
}
function seek(event: Event): void {
  wrong.value = null
  chosen.value = Number((event.target as HTMLInputElement).value)
}
</script>

<template>
  <fieldset class="space-y-2">
    <legend class="text-muted">Thumbnail</legend>
    <img :src="shown" alt="The thumbnail" class="aspect-video w-full rounded-sm bg-ground object-contain" />
    <div class="flex items-center gap-2">
      <input
        type="range"
        class="min-w-0 flex-1 accent-ember"
        aria-label="Where in the film the thumbnail is"
        min="0"
        :max="Math.max(seconds - 0.05, 0)"
        step="0.04"
        :value="at ?? 0"
        :aria-valuetext="at === null ? 'a file' : clock(at)"
        @input="seek"
      />
      <span class="w-16 text-right text-sm tabular-nums text-muted">{{ at === null ? 'a file' : clock(at) }}</span>
      <button type="button" class="key key-line" @click="dialog.open()"><ImagePlus :size="15" /> A file</button>
    </div>
    <p v-if="wrong" class="text-sm text-rose" role="alert">{{ wrong }}</p>
  </fieldset>
</template>
