<script setup lang="ts">
import { Menu, MenuButton, MenuItem, MenuItems } from '@headlessui/vue'
import Trash from '@lucide/vue/dist/esm/icons/trash.mjs'
import { computed, onScopeDispose } from 'vue'
import { maskParams, type Effect, type Mask, type MaskShape } from '@dusk/timeline'
import { newShape, pathKeyed, SHAPES, togglePathKey, withShape } from './maskEdit'
import { useMasks } from './masksStore'

/** Where an effect acts: its shapes, how each comes to those before it, and their settings. */
const props = defineProps<{
  effect: Effect
  time: number
  change: (set: object) => void
  attempt: (set: object) => void
}>()
const emit = defineEmits<{ go: [time: number] }>()
const masks = useMasks()
const shapes = computed(() => props.effect.mask?.shapes ?? [])
const open = computed(() => (masks.effectId === props.effect.id ? masks.shapeId : null))
const shape = computed(() => shapes.value.find(({ id }) => id === open.value) ?? null)
const keep = (mask: Mask | null) => props.change({ mask: mask && mask.shapes.length > 0 ? mask : null })
const changed = (id: string, change: (one: MaskShape) => MaskShape) => withShape({ shapes: shapes.value }, id, change)
const MODES = [
  { value: 'add', label: 'Added' },
  { value: 'subtract', label: 'Taken away' },
  { value: 'intersect', label: 'Only in both' },
] as const

function add(kind: MaskShape['kind']): void {
  const fresh = newShape(kind, shapes.value.length === 0)
  keep({ shapes: [...shapes.value, fresh] })
  masks.edit(props.effect.id, fresh.id)
}
function remove(id: string): void {
  keep({ shapes: shapes.value.filter((one) => one.id !== id) })
  if (open.value === id) masks.edit(null)
}
function patched(id: string, patch: Record<string, unknown>): Mask {
  return changed(id, (one) => {
    const settings = { ...one.settings } as Record<string, unknown>
    for (const [key, value] of Object.entries(patch)) {
      if (value === null) delete settings[key]
      else settings[key] = value
    }
    return { ...one, settings: settings as never }
  })
}
function paste(): void {
  if (!masks.copied) return
  keep({ shapes: masks.copied.shapes.map((one) => ({ ...one, id: crypto.randomUUID() })) })
}
onScopeDispose(() => masks.effectId === props.effect.id && masks.edit(null))
</script>

<template>
  <section class="border-t border-line py-1.5" :aria-label="`Mask of ${effect.kind}`">
    <div class="flex items-center gap-1">
      <h4 class="min-w-0 flex-1 font-semibold">Mask</h4>
      <button v-if="shapes.length > 0" class="key h-6 px-1.5 text-sm" @click="masks.copied = { shapes: [...shapes] }">
        copy
      </button>
      <button v-if="masks.copied" class="key h-6 px-1.5 text-sm" @click="paste">paste</button>
      <Menu as="div" class="relative">
        <MenuButton class="key h-6 px-1.5 text-sm">add</MenuButton>
        <MenuItems class="absolute top-full right-0 z-30 mt-1 w-40 rounded-md border border-line bg-raised py-1">
          <MenuItem v-for="(entry, kind) in SHAPES" :key="kind" v-slot="{ active }">
            <button class="w-full px-3 py-1 text-left" :class="active && 'bg-line'" @click="add(kind)">
              {{ entry.name }}
            </button>
          </MenuItem>
        </MenuItems>
      </Menu>
    </div>
    <p v-if="shapes.length === 0" class="text-sm text-muted">Acts everywhere.</p>
    <ul class="space-y-1">
      <li v-for="(one, i) in shapes" :key="one.id" class="flex items-center gap-1">
        <button
          class="min-w-0 flex-1 truncate rounded-sm px-1 text-left"
          :class="open === one.id && 'bg-line'"
          :aria-pressed="open === one.id"
          title="Work on it on the picture"
          @click="masks.edit(effect.id, open === one.id ? null : one.id)"
        >
          {{ i + 1 }} · {{ SHAPES[one.kind].name }}
        </button>
        <button
          class="grid size-6 place-items-center text-muted hover:text-rose"
          :aria-label="`Remove shape ${i + 1}`"
          @click="remove(one.id)"
        >
          <Trash :size="13" />
        </button>
      </li>
    </ul>
    <div v-if="shape" class="pt-1">
      <p class="text-sm text-muted">{{ SHAPES[shape.kind].hint }}</p>
      <ChoiceField
        class="mt-1"
        label="It is"
        :value="shape.mode"
        :options="MODES"
        @change="keep(changed(shape!.id, (one) => ({ ...one, mode: $event as MaskShape['mode'] })))"
      />
      <NumberField
        v-if="shape.kind === 'brush'"
        class="mt-1"
        label="Brush"
        unit="%"
        :value="masks.radius"
        :min="0.2"
        :max="50"
        :digits="1"
        :initial="6"
        @change="masks.radius = $event"
      />
      <button
        v-if="shape.kind === 'pen' && (shape.path?.length ?? 0) > 0"
        class="key mt-1"
        :aria-pressed="pathKeyed(shape)"
        @click="keep(changed(shape!.id, (one) => togglePathKey(one, time)))"
      >
        {{ pathKeyed(shape) ? 'Keyframe of the outline here: set or take away' : 'Let the outline move' }}
      </button>
      <ParamGroups
        :params="maskParams(shape.kind)"
        :values="shape.settings"
        :time="time"
        @change="keep(patched(shape!.id, $event))"
        @try="attempt({ mask: patched(shape!.id, $event) })"
        @go="emit('go', $event)"
      />
    </div>
  </section>
</template>
