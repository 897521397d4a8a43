<script setup lang="ts">
import { useEventListener } from '@vueuse/core'
import { computed, nextTick, onMounted, ref } from 'vue'
import { clipEnd, SETTING_KINDS, snapToFrame, type Clip, type CommandInput } from '@dusk/timeline'
import { useDeskActions } from '~/composables/useDeskActions'
import { usePlayhead } from '~/composables/usePlayhead'
import { useDesk } from '~/stores/desk'
import { useTransitionActions } from '~/composables/useTransitionActions'
import { meantCuts } from '~/lib/transitions/cuts'
import { useProject } from '~/stores/project'
import { useShortcuts } from '~/stores/shortcuts'
import { useTransitions } from '~/stores/transitions'

/** Where a menu was opened, and on what. */
export interface MenuPlace {
  x: number
  y: number
  clip: Clip | null
  trackId: string
  /** Reel position under the pointer. */
  tick: number
}

interface Item {
  label: string
  /** Action whose key is shown. */
  action?: string
  run: () => void
}

/** The menu of a clip or of empty time: what applies there, and nothing else. */
const props = defineProps<{ place: MenuPlace }>()
const emit = defineEmits<{ close: [] }>()
const project = useProject()
const desk = useDesk()
const act = useDeskActions()
const playhead = usePlayhead()
const joins = useTransitionActions()
const store = useTransitions()
const shortcuts = useShortcuts()
const list = ref<HTMLElement | null>(null)

const perform = (input: CommandInput) => void project.perform(input)

const groups = computed<Item[][]>(() => {
  const document = project.document!
  const { clip, trackId, tick } = props.place
  const rate = project.reel!.format.rate
  const markHere: Item = { label: 'Set a marker here', run: () => (playhead.goTo(tick), act.addMarker()) }
  const paste: Item = { label: 'Paste at the playhead', action: 'arrange.paste', run: () => void act.paste('insert') }
  if (!clip) {
    const later = Object.values(document.clips).some((other) => other.trackId === trackId && other.start > tick)
    return [
      later
        ? [
            {
              label: 'Close up this gap',
              run: () => perform({ type: 'closeGap', trackId, at: tick, scope: desk.scope }),
            },
            {
              label: 'Close up every gap',
              action: 'cut.closeGaps',
              run: () => perform({ type: 'closeGaps', trackId, scope: desk.scope }),
            },
          ]
        : [],
      [paste, markHere],
      desk.range
        ? [
            { label: 'Cut out the marked range', action: 'cut.range', run: act.cutRange },
            { label: 'Clear the range', action: 'choose.clearMarks', run: act.clearMarks },
          ]
        : [],
    ]
  }
  const clips = act.selected()
  const at = playhead.now()
  const under = clips.some((entry) => entry.start < at && clipEnd(entry) > at)
  const picture = clip.stream === null
  const joinable = meantCuts(document, project.reelId, desk.selection, at).some((cut) => cut.left && cut.right)
  const linked = clips.some((entry) => entry.link)
  const same = Object.values(document.clips).filter((other) => other.label && other.label === clip.label)
  const copyTo = (to: string[] | 'source', words: string): Item => ({
    label: words,
    run: () =>
      perform({
        type: 'copySettings',
        fromId: clip.id,
        to,
        kinds: SETTING_KINDS.filter((kind) => kind !== 'label' && (kind === 'sound') !== picture),
      }),
  })
  const others = clips.filter((entry) => entry.id !== clip.id && (entry.stream === null) === picture)
  return [
    [
      ...(under ? [{ label: 'Split at the playhead', action: 'cut.split', run: () => act.split() }] : []),
      {
        label: 'Split here',
        run: () => perform({ type: 'split', reelId: project.reelId, at: snapToFrame(tick, rate), clipIds: [clip.id] }),
      },
      { label: 'Remove, leave the gap', action: 'cut.remove', run: () => act.remove(false) },
      { label: 'Remove and close up', action: 'cut.closeUp', run: () => act.remove(true) },
    ],
    [
      ...(joinable
        ? [
            {
              label: 'Put a transition on its cut',
              action: 'join.standard',
              run: () => joins.use(store.preferences.standard),
            },
          ]
        : []),
      { label: 'Fade in', action: 'join.fadeIn', run: () => act.fade('start') },
      { label: 'Fade out', action: 'join.fadeOut', run: () => act.fade('end') },
    ],
    [
      { label: 'Copy', action: 'arrange.copy', run: () => void act.copy() },
      { label: 'Cut', action: 'arrange.cut', run: act.cut },
      { label: 'Duplicate', action: 'arrange.duplicate', run: act.duplicate },
      { label: 'Swap with the next', action: 'arrange.swapNext', run: () => act.swap('next') },
    ],
    [
      ...(linked && picture ? [{ label: 'Detach the sound', run: act.detachSound }] : []),
      ...(linked
        ? [
            {
              label: 'Unlink',
              action: 'arrange.link',
              run: () => perform({ type: 'unlink', clipIds: clips.map((entry) => entry.id) }),
            },
          ]
        : []),
      ...(clips.length > 1 && !clips.every((entry) => entry.link && entry.link === clip.link)
        ? [{ label: 'Link as they lie', run: () => perform({ type: 'link', clipIds: clips.map((entry) => entry.id) }) }]
        : []),
      ...(clips.length > 1 && !clip.group
        ? [
            {
              label: 'Group',
              action: 'arrange.group',
              run: () => perform({ type: 'group', clipIds: clips.map((entry) => entry.id) }),
            },
          ]
        : []),
      ...(clip.group
        ? [{ label: 'Ungroup', action: 'arrange.ungroup', run: () => perform({ type: 'ungroup', clipIds: [clip.id] }) }]
        : []),
      {
        label: 'Put back in sync',
        action: 'arrange.resync',
        run: () => perform({ type: 'resync', clipIds: clips.map((entry) => entry.id) }),
      },
    ].slice(0, linked ? undefined : -1),
    [
      ...(picture && under ? [{ label: 'Freeze this frame', action: 'cut.freeze', run: act.freeze }] : []),
      { label: 'Make a reel of the selection', action: 'arrange.nest', run: act.nest },
      ...(clip.kind === 'reel'
        ? [
            { label: 'Open this reel', run: () => act.openSourceOf(clip) },
            { label: 'Open it out here', action: 'arrange.unnest', run: act.unnest },
          ]
        : clip.kind === 'media'
          ? [{ label: 'Watch the source', run: () => act.openSourceOf(clip) }]
          : []),
      markHere,
    ],
    [
      ...(others.length > 0
        ? [
            copyTo(
              others.map((entry) => entry.id),
              `Its settings to ${others.length} selected`,
            ),
          ]
        : []),
      ...(clip.kind === 'media' ? [copyTo('source', 'Its settings to every piece of this source')] : []),
      ...(same.length > 1
        ? [
            {
              label: 'Select all with this label',
              run: () =>
                desk.select(
                  same.map((entry) => entry.id),
                  document,
                ),
            },
          ]
        : []),
    ],
  ]
})
const shown = computed(() => groups.value.filter((group) => group.length > 0))

/** Kept inside the page, above the pointer where there is no room below. */
const style = computed(() => {
  const rows = shown.value.reduce((sum, group) => sum + group.length, 0)
  const height = rows * 26 + shown.value.length * 9 + 8
  const x = Math.min(props.place.x, window.innerWidth - 280)
  const y = props.place.y + height > window.innerHeight ? Math.max(8, props.place.y - height) : props.place.y
  return { left: `${x}px`, top: `${y}px` }
})

const items = () => [...(list.value?.querySelectorAll<HTMLElement>('[role="menuitem"]') ?? [])]
onMounted(() => void nextTick(() => items()[0]?.focus({ preventScroll: true })))

function key(event: KeyboardEvent): void {
  const all = items()
  const now = all.indexOf(document.activeElement as HTMLElement)
  if (event.key === 'ArrowDown') all[(now + 1) % all.length]?.focus()
  else if (event.key === 'ArrowUp') all[(now - 1 + all.length) % all.length]?.focus()
  else if (event.key === 'Escape' || event.key === 'Tab') emit('close')
  else return
  event.preventDefault()
  event.stopPropagation()
}
useEventListener(window, 'pointerdown', (event) => {
  if (!list.value?.contains(event.target as Node)) emit('close')
})

function choose(item: Item): void {
  emit('close')
  item.run()
}
</script>

<template>
  <div
    ref="list"
    class="fixed z-40 w-68 rounded-md border border-line bg-raised py-1"
    role="menu"
    aria-label="What can be done here"
    :style="style"
    @keydown="key"
    @contextmenu.prevent
  >
    <div v-for="(group, i) in shown" :key="i" role="none" :class="i > 0 && 'mt-1 border-t border-line pt-1'">
      <button
        v-for="item in group"
        :key="item.label"
        class="flex h-6.5 w-full items-center justify-between gap-3 px-3 text-left hover:bg-line focus:bg-line"
        role="menuitem"
        @click="choose(item)"
      >
        {{ item.label }}
        <span class="font-mono text-[10px] text-muted">{{ item.action ? shortcuts.keyOf(item.action) : '' }}</span>
      </button>
    </div>
  </div>
</template>
