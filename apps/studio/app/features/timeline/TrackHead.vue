<script setup lang="ts">
import { computed, ref } from 'vue'
import Ellipsis from '@lucide/vue/dist/esm/icons/ellipsis-vertical.mjs'
import Eye from '@lucide/vue/dist/esm/icons/eye.mjs'
import EyeOff from '@lucide/vue/dist/esm/icons/eye-off.mjs'
import GripVertical from '@lucide/vue/dist/esm/icons/grip-vertical.mjs'
import Headphones from '@lucide/vue/dist/esm/icons/headphones.mjs'
import Lock from '@lucide/vue/dist/esm/icons/lock.mjs'
import LockOpen from '@lucide/vue/dist/esm/icons/lock-open.mjs'
import Volume2 from '@lucide/vue/dist/esm/icons/volume-2.mjs'
import VolumeX from '@lucide/vue/dist/esm/icons/volume-x.mjs'
import { tracksOf, type CommandInput, type Track } from '@dusk/timeline'
import { useFeatures } from '~/features/registry/feature'
import { useDesk } from './deskStore'
import { putBeside, useHeadDrag } from './useHeadDrag'
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
/** One row up or down on the desk. For pictures higher is in front; sounds are listed downwards. */
function moveBy(by: 1 | -1): void {
  const kin = tracksOf(project.document!, props.track.reelId).filter((track) => track.kind === props.track.kind)
  const order = props.track.kind === 'picture' ? [...kin].reverse() : kin
  const target = order[order.findIndex((track) => track.id === props.track.id) + by]
  const command = target && putBeside(project.document!, props.track, target, by < 0 ? 'above' : 'below')
  if (command) project.perform(command)
}

const menuAt = ref<{ x: number; y: number } | null>(null)
function openMenu(event: MouseEvent): void {
  const { left, bottom } = (event.currentTarget as HTMLElement).getBoundingClientRect()
  menuAt.value = { x: left, y: bottom }
}
const menu = computed(() => [
  [
    { label: 'Rename', run: () => name.value?.begin() },
    { label: 'Taller', run: () => set({ height: Math.min(240, props.track.height + 24) }) },
    { label: 'Lower', run: () => set({ height: Math.max(24, props.track.height - 24) }) },
    ...(props.track.kind === 'picture'
      ? [{ label: 'Motion and opacity', run: () => desk.selectTrack(props.track.id) }]
      : []),
  ],
  [
    { label: 'Put it higher', run: () => moveBy(-1) },
    { label: 'Put it lower', run: () => moveBy(1) },
  ],
  purposes.value.map((purpose) => ({ label: `Use it for ${purpose}`, run: () => set({ purpose }) })),
  [
    {
      label: 'Remove track',
      run: () => project.perform({ type: 'removeTrack', trackId: props.track.id }),
    },
  ],
])
const head = ref<HTMLElement | null>(null)
const handle = ref<HTMLElement | null>(null)
const side = useHeadDrag(head, handle, () => props.track)
</script>

<template>
  <div
    ref="head"
    class="group relative flex h-full items-center border-l-4 bg-panel px-1"
    :style="{ borderColor: `var(--color-clip-${track.purpose})` }"
    @contextmenu.prevent="menuAt = { x: $event.clientX, y: $event.clientY }"
  >
    <span
      v-if="side"
      class="absolute inset-x-0 z-10 h-0.5 bg-dusk"
      :class="side === 'above' ? '-top-px' : '-bottom-px'"
    />
    <span
      ref="handle"
      class="grid h-full w-3 cursor-grab place-items-center text-muted opacity-0 group-hover:opacity-100"
      title="Drag the track above or below another"
    >
      <GripVertical :size="12" />
    </span>
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
        class="mx-1 min-w-0 flex-1 truncate text-left"
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
    <button
      class="grid h-6 w-4 place-items-center text-muted hover:text-ivory"
      :aria-label="`More for ${track.name}`"
      aria-haspopup="menu"
      :aria-expanded="menuAt !== null"
      @click="openMenu"
    >
      <Ellipsis :size="14" />
    </button>
    <ContextMenu
      v-if="menuAt"
      :place="menuAt"
      :groups="menu"
      :label="`More for ${track.name}`"
      @close="menuAt = null"
    />
  </div>
</template>
