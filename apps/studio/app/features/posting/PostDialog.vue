<script setup lang="ts">
import { useFileDialog } from '@vueuse/core'
import Captions from '@lucide/vue/dist/esm/icons/captions.mjs'
import X from '@lucide/vue/dist/esm/icons/x.mjs'
import { computed, onMounted, ref, shallowRef } from 'vue'
import { clock, postFaults, readChapterLines, writeChapterLines, type Post } from '@dusk/interchange'
import { api } from '~/features/ui/api'
import { useNotices } from '~/features/ui/noticesStore'
import { formatBytes } from '~/features/ui/sizes'
import { readTags, type PostDraft } from './posting'
import ThumbnailPicker from './ThumbnailPicker.vue'

/** What is said of a film where it is posted. What the place would refuse is said before anything is sent. */
const props = defineProps<{ renderId: string; name: string }>()
const emit = defineEmits<{ close: []; posted: [] }>()
const notices = useNotices()

const LANGUAGES = [
  { value: 'en', label: 'English' },
  { value: 'de', label: 'Deutsch' },
  { value: 'fr', label: 'Français' },
  { value: 'es', label: 'Español' },
  { value: 'it', label: 'Italiano' },
  { value: 'pt', label: 'Português' },
  { value: 'nl', label: 'Nederlands' },
  { value: 'pl', label: 'Polski' },
  { value: 'ja', label: '日本語' },
  { value: 'zh', label: '中文' },
]
const draft = shallowRef<PostDraft | null>(null)
const wrong = ref<string | null>(null)
const title = ref('')
const description = ref('')
const tags = ref('')
const chapters = ref('')
const captions = shallowRef<{ name: string; vtt: string } | null>(null)
const language = ref(navigator.language.slice(0, 2))
const thumbnail = shallowRef<number | File>(0)
const busy = ref(false)

async function load(): Promise<void> {
  try {
    const given = await api<PostDraft>(`/renders/${props.renderId}/post-draft`)
    if (!draft.value) {
      title.value = given.title
      description.value = given.description
      chapters.value = writeChapterLines(given.chapters)
      thumbnail.value = given.file.seconds / 3
    }
    draft.value = given
  } catch (error) {
    wrong.value = (error as Error).message
  }
}
onMounted(load)

const languages = computed(() =>
  LANGUAGES.some(({ value }) => value === language.value)
    ? LANGUAGES
    : [{ value: language.value, label: language.value }, ...LANGUAGES],
)
const starts = computed(() => {
  try {
    return { chapters: readChapterLines(chapters.value), wrong: null }
  } catch (error) {
    return { chapters: [], wrong: (error as Error).message }
  }
})
const post = computed<Post | null>(
  () =>
    draft.value && {
      ...{ title: title.value.trim(), description: description.value.trim(), tags: readTags(tags.value) },
      chapters: starts.value.chapters,
      captions: captions.value && { language: language.value, vtt: captions.value.vtt },
      file: draft.value.file,
    },
)
const faults = computed(() => {
  if (!post.value || !draft.value?.limits) return []
  const found = postFaults(post.value, draft.value.limits).map(({ words }) => words)
  return starts.value.wrong ? [starts.value.wrong, ...found] : found
})
const room = computed(() => {
  const { file, limits } = draft.value!
  if (!limits) return ''
  return (
    `${file.width} × ${file.height}, ${clock(file.seconds)} of at most ${clock(limits.maxSeconds)}, ` +
    `${formatBytes(file.bytes)} of at most ${formatBytes(limits.maxBytes)}; it takes ${limits.shape.words}.`
  )
})

const words = useFileDialog({ multiple: false, reset: true, accept: '.vtt,.srt,text/vtt,application/x-subrip' })
words.onChange(async (files) => {
  const file = files?.[0]
  if (!file) return
  if (file.size > 4_000_000) return notices.warn(`${file.name} is larger than 4 MB: captions are some lines of text.`)
  captions.value = { name: file.name, vtt: await file.text() }
})

/** A file's bytes as text that JSON can hold. */
async function base64(file: File): Promise<string> {
  const bytes = new Uint8Array(await file.arrayBuffer())
  let text = ''
  for (let i = 0; i < bytes.length; i += 32_768) text += String.fromCharCode(...bytes.subarray(i, i + 32_768))
  return btoa(text)
}

async function send(): Promise<void> {
  if (!post.value) return
  busy.value = true
  try {
    const { file: _file, ...said } = post.value
    const picture = thumbnail.value
    await api(`/renders/${props.renderId}/posts`, 'POST', {
      words: said,
      thumbnail: typeof picture === 'number' ? { at: picture } : { kind: picture.type, bytes: await base64(picture) },
    })
    emit('posted')
  } catch (error) {
    notices.warn((error as Error).message)
  } finally {
    busy.value = false
  }
}
</script>

<template>
  <DialogFrame open :title="`Post ${name}`" wide @close="emit('close')">
    <p v-if="wrong" class="mt-4 text-rose">{{ wrong }}</p>
    <p v-else-if="!draft" class="mt-4 text-muted">Asking what is taken</p>
    <form v-else class="mt-4 grid grid-cols-[5fr_6fr] gap-x-6 gap-y-3" @submit.prevent="send">
      <div class="space-y-3">
        <ThumbnailPicker
          v-model="thumbnail"
          :render-id="renderId"
          :seconds="draft.file.seconds"
          :limits="draft.limits?.thumbnail ?? null"
        />
        <div class="space-y-2">
          <p class="text-muted">Captions</p>
          <div class="flex items-center gap-2">
            <template v-if="captions">
              <span class="min-w-0 flex-1 truncate" :title="captions.name">{{ captions.name }}</span>
              <ChoiceField
                class="w-56"
                label="Language"
                :value="language"
                :options="languages"
                @change="language = $event"
              />
              <button type="button" class="key px-1.5" aria-label="Without captions" @click="captions = null">
                <X :size="16" />
              </button>
            </template>
            <button v-else type="button" class="key key-line" @click="words.open()">
              <Captions :size="15" /> A WebVTT or SubRip file
            </button>
          </div>
        </div>
      </div>
      <div class="space-y-3">
        <label class="block"><span class="text-muted">Title</span><input v-model="title" class="field" /></label>
        <label class="block"
          ><span class="text-muted">About</span><textarea v-model="description" class="field h-20 py-1" />
        </label>
        <label class="block"
          ><span class="text-muted">Tags</span
          ><input v-model="tags" class="field" placeholder="harbour, lanterns, night"
        /></label>
        <label class="block"
          ><span class="text-muted">Chapters, a time and a name each</span
          ><textarea v-model="chapters" class="field h-24 py-1 tabular-nums" placeholder="0:00 Beginning" />
        </label>
      </div>
      <div class="col-span-2 space-y-2 border-t border-line pt-3">
        <p v-if="draft.limits" class="text-muted">{{ draft.limits.place }}: {{ room }}</p>
        <p v-else class="text-rose" role="alert">
          {{ draft.message }}
          <button type="button" class="ml-1 underline" @click="load">Ask again</button>
        </p>
        <ul v-if="faults.length > 0" class="max-h-28 space-y-1 overflow-auto text-lamp" aria-label="Before it is sent">
          <li v-for="line in faults" :key="line">{{ line }}</li>
        </ul>
        <div class="flex justify-end gap-2 pt-1">
          <button type="button" class="key key-line" @click="emit('close')">Cancel</button>
          <button class="key key-ember px-4" :disabled="busy || !draft.limits || faults.length > 0">
            {{ busy ? 'Sending' : 'Post it' }}
          </button>
        </div>
      </div>
    </form>
  </DialogFrame>
</template>
