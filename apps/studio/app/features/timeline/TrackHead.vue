<script setup lang="ts">
import { Menu, MenuButton, MenuItem, MenuItems } from '@headlessui/vue'
import { computed, ref } from 'vue'
import Ellipsis from '@lucide/vue/dist/esm/icons/ellipsis-vertical.mjs'
import Eye from '@lucide/vue/dist/esm/icons/eye.mjs'
import EyeOff from '@lucide/vue/dist/esm/icons/eye-off.mjs'
import Headphones from '@lucide/vue/dist/esm/icons/headphones.mjs'
import Lock from '@lucide/vue/dist/esm/icons/lock.mjs'
import LockOpen from '@lucide/vue/dist/esm/icons/lock-open.mjs'
import Volume2 from '@lucide/vue/dist/esm/icons/volume-2.mjs'
import VolumeX from '@lucide/vue/dist/esm/icons/volume-x.mjs'
import { tracksOf, type CommandInput, type Track } from '@dusk/timeline'
import { useFeatures } from '~/features/registry/feature'
import { useDesk } from './deskStore'
import { useProject } from '~/features/project/projectStore'

const props = defineProps<{ track: Track; front: boolean }>()
const project = useProject()
const desk = useDesk()
const features = useFeatures()
const name = ref<{ begin: () => void } | null>(null)

type Settings = Extract<CommandInput, { type: 'setTrack' }>['set']
const set = (values: Settings) => project.perform({ type: 'setTrack', trackId: props.track.id, set: values })

/** What else this track could be for. */
const purposes = computed(() =>
  (props.track.kind === 'picture'
    ? (['picture', 'titles'] as const)
    : (['voice', 'music', 'effects', 'ambience'] as const)
  ).filter((purpose) => purpose !== props.track.purpose),
)
const STEPS = [
  { words: 'Put it higher', by: -1 },
  { words: 'Put it lower', by: 1 },
] as const

/** One row up or down on the desk. For pictures higher is in front; sounds are listed downwards. */
function moveBy(by: 1 | -1): void {
  const kin = tracksOf(project.document!, props.track.reelId).filter((track) => track.kind === props.track.kind)
  const order = props.track.kind === 'picture' ? [...kin].reverse() : kin
  const place = order.findIndex((track) => track.id === props.track.id) + by
  if (place < 0 || place >= order.length) return
  const others = order.filter((track) => track.id !== props.track.id)
  // `after` is the one it comes behind in the document: the row above for sounds, the row below for pictures.
  const after = props.track.kind === 'picture' ? others[place] : others[place - 1]
  project.perform({ type: 'moveTrack', trackId: props.track.id, after: after?.id ?? null })
}
</script>

<template>
  <div
    class="group flex h-full items-center gap-1 border-l-4 bg-panel pr-1 pl-2"
    :style="{ borderColor: `var(--color-clip-${track.purpose})` }"
  >
    <AimSwitch :track="track" />
    <InlineName
      ref="name"
      v-slot="{ begin }"
      class="h-6"
      :value="track.name"
      label="Name of the track"
      @rename="set({ name: $event })"
    >
      <button
        class="min-w-0 flex-1 truncate text-left"
        :title="`${track.name}. Double-click to rename.`"
        @dblclick="begin"
      >
        {{ track.name
        }}<span v-if="front && track.height >= 44" class="block text-[10px] leading-3 text-muted">in front</span>
      </button>
    </InlineName>
    <template v-if="track.kind === 'picture'">
      <HeadSwitch
        :label="`Hide ${track.name}`"
        :title="track.hidden ? 'Show' : 'Hide'"
        :pressed="track.hidden"
        tone="text-rose"
        @click="set({ hidden: !track.hidden })"
      >
        <EyeOff v-if="track.hidden" :size="14" /><Eye v-else :size="14" />
      </HeadSwitch>
    </template>
    <template v-else>
      <HeadSwitch
        :label="`Mute ${track.name}`"
        :title="track.muted ? 'Unmute' : 'Mute'"
        :pressed="track.muted"
        tone="text-rose"
        @click="set({ muted: !track.muted })"
      >
        <VolumeX v-if="track.muted" :size="14" /><Volume2 v-else :size="14" />
      </HeadSwitch>
      <HeadSwitch
        :label="`Solo ${track.name}`"
        title="Hear this track alone"
        :pressed="track.solo"
        tone="text-lamp"
        @click="set({ solo: !track.solo })"
      >
        <Headphones :size="14" />
      </HeadSwitch>
    </template>
    <template v-for="feature in features" :key="feature.id">
      <component :is="feature.timeline.headSwitch" v-if="feature.timeline?.headSwitch" :track="track" />
    </template>
    <HeadSwitch
      :label="`Lock ${track.name}`"
      :title="track.locked ? 'Unlock' : 'Lock'"
      :pressed="track.locked"
      tone="text-lamp"
      @click="set({ locked: !track.locked })"
    >
      <Lock v-if="track.locked" :size="14" /><LockOpen v-else :size="14" />
    </HeadSwitch>
    <Menu as="div" class="relative">
      <MenuButton
        class="grid h-6 w-4 place-items-center text-muted hover:text-ivory"
        :aria-label="`More for ${track.name}`"
        ><Ellipsis :size="14"
      /></MenuButton>
      <MenuItems class="absolute right-0 z-30 w-44 rounded-md border border-line bg-raised py-1">
        <MenuItem v-slot="{ active }"
          ><button class="block w-full px-3 py-1 text-left" :class="active && 'bg-line'" @click="name?.begin()">
            Rename
          </button></MenuItem
        >
        <MenuItem v-slot="{ active }"
          ><button
            class="block w-full px-3 py-1 text-left"
            :class="active && 'bg-line'"
            @click="set({ height: Math.min(240, track.height + 24) })"
          >
            Taller
          </button></MenuItem
        >
        <MenuItem v-slot="{ active }"
          ><button
            class="block w-full px-3 py-1 text-left"
            :class="active && 'bg-line'"
            @click="set({ height: Math.max(24, track.height - 24) })"
          >
            Lower
          </button></MenuItem
        >
        <MenuItem v-if="track.kind === 'picture'" v-slot="{ active }"
          ><button
            class="block w-full px-3 py-1 text-left"
            :class="active && 'bg-line'"
            @click="desk.selectTrack(track.id)"
          >
            Motion and opacity
          </button></MenuItem
        >
        <MenuItem v-for="step in STEPS" :key="step.words" v-slot="{ active }"
          ><button class="block w-full px-3 py-1 text-left" :class="active && 'bg-line'" @click="moveBy(step.by)">
            {{ step.words }}
          </button></MenuItem
        >
        <MenuItem v-for="purpose in purposes" :key="purpose" v-slot="{ active }"
          ><button
            class="block w-full px-3 py-1 text-left text-muted"
            :class="active && 'bg-line'"
            @click="set({ purpose })"
          >
            Use it for {{ purpose }}
          </button></MenuItem
        >
        <MenuItem v-slot="{ active }"
          ><button
            class="block w-full px-3 py-1 text-left text-rose"
            :class="active && 'bg-line'"
            @click="project.perform({ type: 'removeTrack', trackId: track.id })"
          >
            Remove track
          </button></MenuItem
        >
      </MenuItems>
    </Menu>
  </div>
</template>
