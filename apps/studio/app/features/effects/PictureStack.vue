<script setup lang="ts">
import { Menu, MenuButton, MenuItem, MenuItems } from '@headlessui/vue'
import { computed, onScopeDispose } from 'vue'
import { pictureEffect, stackColour, writeCube } from '@dusk/compositor'
import { resolveParams, type Effect, type EffectOwner, type Value } from '@dusk/timeline'
import EffectRows from '~/features/params/EffectRows.vue'
import { useProject } from '~/features/project/projectStore'
import { useNotices } from '~/features/ui/noticesStore'
import EffectTools from './EffectTools.vue'
import { bareEffects, useEffects } from './effectsStore'
import MaskList from './masks/MaskList.vue'
import { effectStack } from './useEffectTarget'
import { saveFile } from '~/features/ui/saveFile'

/** The picture effects of a clip, a track, a source or the reel. */
const props = withDefaults(
  defineProps<{
    owner: EffectOwner
    ownerId: string
    title?: string
    /** The owner's time under the playhead, in ticks. */
    time: number
  }>(),
  { title: 'Effects' },
)
const emit = defineEmits<{ go: [time: number] }>()
const project = useProject()
const notices = useNotices()
const effects = useEffects()
const stack = computed(() => effectStack('picture', project.document?.effects ?? {}, props.ownerId))
const kindOf = (effect: Effect) => pictureEffect(effect.kind)

async function keepLook(): Promise<void> {
  await effects.load()
  const name = `My look ${Object.keys(effects.preferences.looks).length + 1}`
  if (await effects.keepLook(name, bareEffects(stack.value))) notices.say(`Kept as “${name}” in the Effects drawer.`)
}
function copy(): void {
  effects.copied = bareEffects(stack.value)
  notices.say(`Copied ${stack.value.length === 1 ? 'an effect' : `${stack.value.length} effects`}.`)
}
function paste(): void {
  project.perform({
    ...{ type: 'addEffects', owner: props.owner, ownerIds: [props.ownerId] },
    effects: effects.copied as never,
  })
}
/** Everything the stack does to colours, as a file that other programs read. */
function saveCube(size: 33 | 65): void {
  const acting = stack.value.filter((effect) => effect.on)
  const { change, left } = stackColour(
    acting.map(({ kind, settings, strength, mask }) => ({
      kind,
      settings: resolveParams(pictureEffect(kind)?.params ?? [], settings, props.time) as Record<string, Value>,
      strength: strength / 100,
      ...(mask ? { mask: [] } : {}),
    })),
  )
  const name = project.reel?.name ?? 'grade'
  saveFile(new Blob([writeCube(name, change, size)], { type: 'text/plain' }), `${name}.cube`)
  notices.say(
    left.length > 0 ? `Saved without ${left.join(', ')}: a table holds colours only.` : 'Saved as a .cube file.',
  )
}
onScopeDispose(() => (effects.openId = null))
</script>

<template>
  <EffectRows
    :title="title"
    :stack="stack"
    :kind-of="kindOf"
    drawer="effects"
    drawer-name="Effects"
    :time="time"
    @go="emit('go', $event)"
    @open="effects.openId = $event"
  >
    <template #default="{ effect, set }"><EffectTools :effect="effect" :set="set" /></template>
    <template #foot="{ effect, change, attempt }">
      <MaskList :effect="effect" :time="time" :change="change" :attempt="attempt" @go="emit('go', $event)" />
    </template>
    <template #menu>
      <Menu v-if="stack.length > 0 || effects.copied.length > 0" as="div" class="relative">
        <MenuButton class="key h-6 px-1.5 text-sm">more</MenuButton>
        <MenuItems class="absolute top-full right-0 z-30 mt-1 w-52 rounded-md border border-line bg-raised py-1">
          <template v-if="stack.length > 0">
            <MenuItem v-slot="{ active }">
              <button class="w-full px-3 py-1 text-left" :class="active && 'bg-line'" @click="keepLook">
                Keep as a look
              </button>
            </MenuItem>
            <MenuItem v-slot="{ active }">
              <button class="w-full px-3 py-1 text-left" :class="active && 'bg-line'" @click="copy">
                Copy the effects
              </button>
            </MenuItem>
          </template>
          <MenuItem v-if="effects.copied.length > 0" v-slot="{ active }">
            <button class="w-full px-3 py-1 text-left" :class="active && 'bg-line'" @click="paste">
              Paste effects
            </button>
          </MenuItem>
          <template v-if="stack.length > 0">
            <MenuItem v-for="size in [33, 65] as const" :key="size" v-slot="{ active }">
              <button class="w-full px-3 py-1 text-left" :class="active && 'bg-line'" @click="saveCube(size)">
                Save colours as .cube, {{ size }}³
              </button>
            </MenuItem>
          </template>
        </MenuItems>
      </Menu>
    </template>
  </EffectRows>
</template>
