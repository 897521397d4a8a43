<script setup lang="ts">
import { computed, ref } from 'vue'
import Plus from '@lucide/vue/dist/esm/icons/plus.mjs'
import { ownFont, ownFontValue } from '@dusk/timeline'
import { useFileSend } from '~/features/ui/useFileSend'
import { useOwnFonts } from './ownFontsStore'

/** Takes in a font file of the person's own; the one that is chosen can be taken off their list. */
const props = defineProps<{ font: string }>()
const emit = defineEmits<{ added: [font: string] }>()
const fonts = useOwnFonts()
const input = ref<HTMLInputElement | null>(null)
const kept = computed(() => fonts.list.find(({ id }) => id === ownFont(props.font)?.hash))

const { sending, send } = useFileSend<{ hash: string; name: string }>(input, '/api/fonts', async ({ hash, name }) => {
  await fonts.keep({ hash, name })
  emit('added', ownFontValue({ hash, name }))
})
</script>

<template>
  <button
    v-if="kept"
    class="key h-6 text-sm text-muted"
    title="Titles that are set in it keep it"
    @click="fonts.drop(kept.id)"
  >
    Off my list
  </button>
  <button class="key h-6 text-sm text-muted" :disabled="sending" @click="input?.click()">
    <Plus :size="13" /> {{ sending ? 'Reading …' : 'A font file of your own' }}
  </button>
  <input
    ref="input"
    type="file"
    class="hidden"
    accept=".ttf,.otf,.woff,.woff2"
    aria-label="Font file to add"
    @change="send"
  />
</template>
