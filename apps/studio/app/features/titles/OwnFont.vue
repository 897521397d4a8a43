<script setup lang="ts">
import { computed, ref } from 'vue'
import Plus from '@lucide/vue/dist/esm/icons/plus.mjs'
import { ownFont, ownFontValue } from '@dusk/timeline'
import { useNotices } from '~/features/ui/noticesStore'
import { useOwnFonts } from './ownFontsStore'

/** Takes in a font file of the person's own; the one that is chosen can be taken off their list. */
const props = defineProps<{ font: string }>()
const emit = defineEmits<{ added: [font: string] }>()
const fonts = useOwnFonts()
const notices = useNotices()
const input = ref<HTMLInputElement | null>(null)
const sending = ref(false)
const kept = computed(() => fonts.list.find(({ id }) => id === ownFont(props.font)?.hash))

async function send(): Promise<void> {
  const file = input.value?.files?.[0]
  if (!file) return
  sending.value = true
  try {
    const answer = await fetch('/api/fonts', { method: 'POST', body: file })
    const { hash, name, detail } = (await answer.json()) as { hash?: string; name?: string; detail?: string }
    if (!hash || !name)
      return void notices.warn(`${file.name} can’t be used. ${detail ?? 'The server did not say why.'}`)
    await fonts.keep({ hash, name })
    emit('added', ownFontValue({ hash, name }))
  } catch {
    notices.warn(`${file.name} could not be sent. Try again.`)
  } finally {
    sending.value = false
    if (input.value) input.value.value = ''
  }
}
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
