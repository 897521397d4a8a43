<script setup lang="ts">
import { computed, ref } from 'vue'
import Download from '@lucide/vue/dist/esm/icons/download.mjs'
import Upload from '@lucide/vue/dist/esm/icons/upload.mjs'
import X from '@lucide/vue/dist/esm/icons/x.mjs'
import { useActionList } from '~/features/registry/feature'
import { SHIPPED } from './defaults'
import { keyName } from './keys'
import { conflicts, exportSet, importSet } from './sets'
import { useNotices } from '~/features/ui/noticesStore'
import { useShortcuts } from './shortcutsStore'
import { saveFile } from '~/features/ui/saveFile'

/** The sheet of shortcuts, which is also where they are changed. */
defineProps<{ open: boolean }>()
const emit = defineEmits<{ close: [] }>()
const shortcuts = useShortcuts()
const notices = useNotices()
const actions = useActionList()
const search = ref('')
/** Action whose next key is waited for. */
const waiting = ref<string | null>(null)
const picker = ref<HTMLInputElement | null>(null)

const labels = new Map(actions.map((action) => [action.id, action.label]))
const clashes = computed(() => conflicts(shortcuts.bindings))
const groups = computed(() => {
  const words = search.value.trim().toLowerCase()
  const map = new Map<string, typeof actions>()
  for (const action of actions) {
    const keys = shortcuts.bindings[action.id] ?? []
    if (words && !`${action.label} ${keys.join(' ')}`.toLowerCase().includes(words)) continue
    map.set(action.group, [...(map.get(action.group) ?? []), action])
  }
  return [...map]
})

function clash(id: string): string | null {
  for (const key of shortcuts.bindings[id] ?? []) {
    const others = clashes.value.get(key)?.filter((other) => other !== id)
    if (others?.length) return `${key} is also: ${others.map((other) => labels.get(other) ?? other).join(', ')}`
  }
  return null
}

function take(event: KeyboardEvent, id: string): void {
  if (waiting.value !== id) return
  event.preventDefault()
  event.stopPropagation()
  const key = keyName(event)
  if (!key) return
  waiting.value = null
  if (key === 'Escape' && id !== 'select.none') return
  const now = shortcuts.bindings[id] ?? []
  if (!now.includes(key)) shortcuts.bind(id, [...now, key].slice(-6))
}

function without(id: string, key: string): void {
  shortcuts.bind(
    id,
    (shortcuts.bindings[id] ?? []).filter((other) => other !== key),
  )
}

function save(): void {
  const { active } = shortcuts.stored
  const text = exportSet(active, shortcuts.bindings)
  saveFile(new Blob([text], { type: 'application/json' }), `shortcuts ${active}.json`)
}

async function read(event: Event): Promise<void> {
  const input = event.target as HTMLInputElement
  const file = input.files?.[0]
  input.value = ''
  if (!file) return
  try {
    const { name, keys, unknown } = importSet(
      await file.text(),
      actions.map((action) => action.id),
    )
    shortcuts.add(name, keys)
    if (unknown.length > 0) notices.say(`${unknown.length} of its actions are not known here and were left out.`)
  } catch (error) {
    notices.warn(`${file.name}: ${(error as Error).message}`)
  }
}
</script>

<template>
  <DialogFrame :open="open" title="Shortcuts" wide @close="(emit('close'), (waiting = null))">
    <div class="mt-3 flex flex-wrap items-center gap-2">
      <input v-model="search" class="field w-48" placeholder="Find an action or a key" aria-label="Find a shortcut" />
      <ChoiceList
        class="w-36"
        label="Set of shortcuts"
        :value="shortcuts.stored.active"
        :options="shortcuts.names.map((name) => ({ value: name, label: name }))"
        @change="shortcuts.choose($event)"
      />
      <template v-if="shortcuts.stored.active !== SHIPPED">
        <input
          class="field w-32"
          :value="shortcuts.stored.active"
          aria-label="Name of this set"
          maxlength="60"
          @change="shortcuts.rename(shortcuts.stored.active, ($event.target as HTMLInputElement).value)"
        />
        <button class="key text-rose" @click="shortcuts.remove(shortcuts.stored.active)">Remove this set</button>
      </template>
      <button class="key ml-auto" @click="save"><Download :size="15" /> Export</button>
      <button class="key" @click="picker?.click()"><Upload :size="15" /> Import</button>
      <input
        ref="picker"
        type="file"
        accept=".json,application/json"
        class="hidden"
        aria-label="File with shortcuts"
        @change="read"
      />
    </div>
    <p class="mt-2 text-muted">
      <template v-if="clashes.size > 0"
        ><span class="text-rose"
          >{{ clashes.size }} {{ clashes.size === 1 ? 'key has' : 'keys have' }} two actions; the first in this list
          gets it.</span
        ></template
      >
      <template v-else
        >Press + on a line and then the keys. The set “{{ SHIPPED }}” stays as it is: changes make your own.</template
      >
    </p>
    <div class="mt-3 max-h-[62vh] overflow-auto pr-2">
      <div class="columns-2 gap-8">
        <section v-for="[group, list] in groups" :key="group" class="mb-4 break-inside-avoid">
          <h3 class="mb-1 font-semibold text-lamp">{{ group }}</h3>
          <div
            v-for="action in list"
            :key="action.id"
            class="flex min-h-7 items-center gap-1.5 border-b border-line/60"
            :title="clash(action.id) ?? undefined"
          >
            <span class="min-w-0 flex-1 truncate" :class="clash(action.id) && 'text-rose'">{{ action.label }}</span>
            <span
              v-for="key in shortcuts.bindings[action.id] ?? []"
              :key="key"
              class="flex items-center rounded-sm border border-line bg-ground px-1.5 font-mono text-[10px] leading-5"
              >{{ key }}
              <button
                class="ml-1 text-muted hover:text-ivory"
                :aria-label="`Take ${key} from ${action.label}`"
                @click="without(action.id, key)"
              >
                <X :size="10" />
              </button>
            </span>
            <button
              class="h-6 min-w-6 rounded-sm px-1 text-sm"
              :class="waiting === action.id ? 'bg-ember text-ground' : 'text-muted hover:bg-raised hover:text-ivory'"
              :aria-label="`Give ${action.label} a key`"
              @click="waiting = waiting === action.id ? null : action.id"
              @keydown="take($event, action.id)"
              @blur="waiting = null"
            >
              {{ waiting === action.id ? 'press keys' : '+' }}
            </button>
            <button
              v-if="!shortcuts.isDefault(action.id)"
              class="h-6 rounded-sm px-1 text-[11px] text-muted hover:text-ivory"
              :title="`Back to ${shortcuts.shipped[action.id]?.join(', ') || 'no key'}`"
              @click="shortcuts.bind(action.id, shortcuts.shipped[action.id] ?? [])"
            >
              reset
            </button>
          </div>
        </section>
      </div>
    </div>
    <div class="mt-4 flex justify-end"><button class="key key-line" @click="emit('close')">Done</button></div>
  </DialogFrame>
</template>
