<script setup lang="ts">
import Download from '@lucide/vue/dist/esm/icons/download.mjs'
import Trash from '@lucide/vue/dist/esm/icons/trash.mjs'
import Upload from '@lucide/vue/dist/esm/icons/upload.mjs'
import { computed, ref } from 'vue'
import { useNotices } from '~/features/ui/noticesStore'
import { PURPOSES, purposeFileSchema, type PurposeSettings } from '@dusk/interchange'
import { usePurposes } from './purposesStore'
import { saveFile } from '~/features/ui/saveFile'

/** What a file is for: settings by name, those that ship and the person's own, which are kept and handed on here. */
const props = defineProps<{ purpose: string; settings: PurposeSettings }>()
const emit = defineEmits<{ take: [id: string, settings: PurposeSettings] }>()
const purposes = usePurposes()
const notices = useNotices()
void purposes.load()
const naming = ref<string | null>(null)
const picker = ref<HTMLInputElement | null>(null)

const all = computed(() => [
  ...PURPOSES.map(({ id, name, hint, settings }) => ({ id, name, hint, settings })),
  ...purposes.own.map(({ id, name, settings }) => ({ id, name, hint: 'your own', settings })),
])
const chosen = computed(() => all.value.find((entry) => entry.id === props.purpose))
const own = computed(() => purposes.own.find((entry) => entry.id === props.purpose))
const changed = computed(() => JSON.stringify(chosen.value?.settings) !== JSON.stringify(props.settings))

async function keep(): Promise<void> {
  const name = naming.value?.trim()
  if (!name) return
  const id = crypto.randomUUID()
  if (!(await purposes.keep({ id, name, settings: props.settings }))) return
  naming.value = null
  emit('take', id, props.settings)
}

function save(): void {
  const name = chosen.value?.name ?? 'Purpose'
  const text = JSON.stringify({ duskPurpose: 1, name, settings: props.settings }, null, 2)
  saveFile(new Blob([text], { type: 'application/json' }), `${name}.json`)
}

async function load(): Promise<void> {
  const file = picker.value?.files?.[0]
  if (!file) return
  try {
    const read = purposeFileSchema.safeParse(JSON.parse(await file.text()))
    if (!read.success) {
      const [issue] = read.error.issues
      throw new Error(`${issue!.path.join('.') || 'it'}: ${issue!.message}`)
    }
    const { name, settings } = read.data
    const id = crypto.randomUUID()
    if (await purposes.keep({ id, name, settings })) emit('take', id, settings)
  } catch (error) {
    notices.warn(`${file.name} is no purpose of a render: ${(error as Error).message}`)
  } finally {
    if (picker.value) picker.value.value = ''
  }
}
</script>

<template>
  <div class="space-y-1">
    <ChoiceField
      label="For"
      :value="purpose"
      :options="all.map(({ id, name, hint }) => ({ value: id, label: name, hint }))"
      @change="emit('take', $event, all.find((entry) => entry.id === $event)!.settings)"
    />
    <p v-if="chosen" class="pl-23 text-sm text-muted">{{ chosen.hint }}</p>
    <div class="flex items-center gap-1 pl-23">
      <template v-if="naming === null">
        <button type="button" class="key h-6 px-1.5 text-sm text-muted" @click="naming = ''">
          {{ changed ? 'Changed: keep it as your own' : 'Keep it as your own' }}
        </button>
        <button
          type="button"
          class="key ml-auto h-6 px-1"
          aria-label="Save this purpose as a file"
          title="Save it as a file"
          @click="save"
        >
          <Download :size="14" />
        </button>
        <button
          type="button"
          class="key h-6 px-1"
          aria-label="Load a purpose from a file"
          title="Load one from a file"
          @click="picker?.click()"
        >
          <Upload :size="14" />
        </button>
        <button
          v-if="own"
          type="button"
          class="key h-6 px-1 hover:text-rose"
          :aria-label="`Remove the purpose ${own.name}`"
          title="Remove it"
          @click="(purposes.drop(own.id), emit('take', 'asReel', settings))"
        >
          <Trash :size="14" />
        </button>
      </template>
      <template v-else>
        <input
          v-model="naming"
          class="field h-7 min-w-0 flex-1"
          maxlength="60"
          placeholder="What it is for"
          aria-label="Name of the purpose"
          @keydown.enter.prevent="keep"
          @keydown.esc.stop="naming = null"
        />
        <button type="button" class="key key-line h-7" :disabled="!naming.trim()" @click="keep">Keep</button>
      </template>
      <input
        ref="picker"
        type="file"
        class="hidden"
        accept="application/json,.json"
        aria-label="Purpose to load"
        @change="load"
      />
    </div>
  </div>
</template>
