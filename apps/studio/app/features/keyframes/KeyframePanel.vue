<script setup lang="ts">
import { computed, ref } from 'vue'
import X from '@lucide/vue/dist/esm/icons/x.mjs'
import { formatSeconds, putKey, snapToFrame, valueAt, type Clip } from '@dusk/timeline'
import { useKeySelection, type KeyPlace } from './useKeySelection'
import { useFollowPlay, usePlayhead } from '~/features/player/usePlayhead'
import { pointerDrag } from '~/features/ui/pointerDrag'
import type { AnimatedParam } from './keyframes'
import { useDesk } from '~/features/timeline/deskStore'
import { useProject } from '~/features/project/projectStore'
import { useSource } from '~/features/player/sourceStore'

/**
 * Keyframes of the selected clip under the timeline: a row for each setting, and the course of one of them as a
 * curve.
 */
const props = defineProps<{ clip: Clip; heads: number; width: number }>()
const project = useProject()
const desk = useDesk()
const playhead = usePlayhead()
const source = useSource()
const line = ref<HTMLElement | null>(null)
const panel = ref<HTMLElement | null>(null)
const lanes = ref<HTMLElement | null>(null)
useFollowPlay(line, (tick) => desk.toX(source.assetId ? source.parked : tick))
const ROW = 22
const SPAN = 10

const nowInClip = () => snapToFrame(playhead.now(), project.reel!.format.rate) - props.clip.start + props.clip.head
const keys = useKeySelection(() => props.clip, nowInClip)
const { rows, valueOf, span, has } = keys
const chosenKey = ref('')
const chosen = computed(() => rows.value.find((row) => row.param.key === chosenKey.value) ?? rows.value[0])

const toX = (clipTime: number) => desk.toX(props.clip.start + clipTime - props.clip.head)
const toClipTime = (x: number) =>
  snapToFrame(desk.toTick(x), project.reel!.format.rate) - props.clip.start + props.clip.head

/** The panel takes the keys while something in it is pressed, whatever is drawn anew meanwhile. */
const takeFocus = () => panel.value?.focus({ preventScroll: true })

function dragInTime(down: PointerEvent, row: AnimatedParam, at: number): void {
  if (down.button !== 0) return
  const toggle = down.shiftKey || down.ctrlKey || down.metaKey
  const place = { key: row.param.key, at }
  const alone = !toggle && has(place) && keys.places.value.length > 1
  chosenKey.value = row.param.key
  keys.press(place, toggle)
  let last: ReturnType<typeof keys.moved> | null = null
  pointerDrag(down, {
    move(event) {
      const by = toClipTime(toX(at) + event.clientX - down.clientX) - at
      // With Alt copies are moved and the keyframes stay.
      last = event.altKey ? keys.duplicated(by) : keys.moved((time) => time + by)
      keys.tryOut(last.values)
    },
    done(_event, moved) {
      if (moved && last) keys.apply(last)
      else if (alone) keys.select([place])
    },
    end: () => keys.tryOut(new Map()),
  })
  takeFocus()
}

/** Stretches what is selected in time from one end; the other stays. */
function dragSpan(down: PointerEvent, edge: 'from' | 'to'): void {
  const begin = span.value![edge]
  let last: ReturnType<typeof keys.moved> | null = null
  pointerDrag(down, {
    move(event) {
      const to = toClipTime(toX(begin) + event.clientX - down.clientX)
      const other = span.value![edge === 'to' ? 'from' : 'to']
      if (edge === 'to' ? to <= other : to >= other) return
      last = keys.moved(keys.scaledTo(edge, to))
      keys.tryOut(last.values)
    },
    done: () => last && keys.apply(last),
    end: () => keys.tryOut(new Map()),
  })
  takeFocus()
}

const band = ref<{ x: number; y: number; w: number; h: number } | null>(null)

/** A drag on the empty rows selects the keyframes it passes over. */
function dragBand(down: PointerEvent): void {
  if (down.button !== 0) return
  const box = lanes.value!.getBoundingClientRect()
  const [x0, y0] = [down.clientX - box.left, down.clientY - box.top]
  const add = down.shiftKey
  pointerDrag(down, {
    move(event) {
      const [x, y] = [event.clientX - box.left, event.clientY - box.top]
      band.value = { x: Math.min(x, x0), y: Math.min(y, y0), w: Math.abs(x - x0), h: Math.abs(y - y0) }
    },
    done(_event, moved) {
      if (!moved) return keys.select([])
      const { x, y, w, h } = band.value!
      const inside: KeyPlace[] = rows.value.flatMap((row, i) =>
        y < (i + 1) * ROW && y + h > i * ROW
          ? row.value.keys
              .filter((key) => toX(key.at) >= x && toX(key.at) <= x + w)
              .map((key) => ({ key: row.param.key, at: key.at }))
          : [],
      )
      keys.select(inside, add)
    },
    end: () => (band.value = null),
  })
  takeFocus()
}

/** Keys that act on the selected keyframes rather than on the clip. */
function onKey(event: KeyboardEvent): void {
  const command = event.ctrlKey || event.metaKey
  const letter = event.key.toLowerCase()
  if (command && letter === 'v') {
    if (!keys.paste()) return
  } else if (command && letter === 'a')
    keys.select(rows.value.flatMap((row) => row.value.keys.map((key) => ({ key: row.param.key, at: key.at }))))
  else if (keys.places.value.length === 0) return
  else if (command && letter === 'c') keys.copy()
  else if (command && letter === 'x') {
    keys.copy()
    keys.remove()
  } else if (command || event.altKey) return
  else if (event.key === 'Delete' || event.key === 'Backspace') keys.remove()
  else if (event.key === 'ArrowLeft') keys.nudge(event.shiftKey ? -10 : -1)
  else if (event.key === 'ArrowRight') keys.nudge(event.shiftKey ? 10 : 1)
  else if (event.key === 'Enter') goTo(keys.places.value[0]!.at)
  else if (event.key === 'Escape') keys.select([])
  else return
  event.preventDefault()
  event.stopPropagation()
}

function goTo(at: number): void {
  playhead.goTo(props.clip.start + at - props.clip.head)
}

/** Keyboard focus on a keyframe selects it, so that keys act on what is seen as focused. */
function focusKey(event: FocusEvent, place: KeyPlace): void {
  if ((event.currentTarget as HTMLElement).matches(':focus-visible') && !has(place)) keys.select([place])
}

function addAt(row: AnimatedParam, event: MouseEvent): void {
  const at = toClipTime(event.clientX - lanes.value!.getBoundingClientRect().left)
  keys.keep(new Map([[row.param.key, putKey(row.value, at, valueAt(row.value, at))]]))
  keys.select([{ key: row.param.key, at }])
}

function removeAll(row: AnimatedParam): void {
  keys.keep(new Map([[row.param.key, valueAt(row.value, nowInClip())]]))
}
</script>

<template>
  <section
    ref="panel"
    class="flex max-h-64 shrink-0 overflow-y-auto border-t border-line bg-panel outline-none"
    aria-label="Keyframes"
    tabindex="-1"
    @keydown="onKey"
  >
    <div class="shrink-0 border-r border-line" :style="{ width: `${heads}px`, paddingTop: `${SPAN}px` }">
      <div v-for="row in rows" :key="row.param.key" class="flex items-center" :style="{ height: `${ROW}px` }">
        <button
          class="min-w-0 flex-1 truncate px-3 text-left text-sm"
          :class="row === chosen ? 'text-lamp' : 'text-muted hover:text-ivory'"
          :aria-pressed="row === chosen"
          @click="chosenKey = row.param.key"
        >
          {{ row.param.label }}
        </button>
        <button
          class="grid size-6 place-items-center text-muted hover:text-ivory"
          :aria-label="`Remove all keyframes of ${row.param.label}`"
          title="Remove all keyframes; the value at the playhead stays"
          @click="removeAll(row)"
        >
          <X :size="12" />
        </button>
      </div>
    </div>
    <div class="relative min-w-0 flex-1 overflow-hidden">
      <div class="relative" :style="{ height: `${SPAN}px` }">
        <div
          v-if="span"
          class="absolute top-1 h-1.5 rounded-full bg-lamp/40"
          :style="{ left: `${toX(span.from)}px`, width: `${toX(span.to) - toX(span.from)}px` }"
          :title="`${keys.places.value.length} keyframes over ${formatSeconds(span.to - span.from)}`"
        >
          <span
            v-for="edge in ['from', 'to'] as const"
            :key="edge"
            class="absolute -top-1 h-3.5 w-2.5 cursor-ew-resize touch-none rounded-sm bg-lamp"
            :class="edge === 'from' ? '-left-3' : '-right-3'"
            title="Drag to stretch the selected keyframes in time"
            @pointerdown.stop="dragSpan($event, edge)"
          />
        </div>
      </div>
      <div ref="lanes" class="relative touch-none">
        <div
          v-for="row in rows"
          :key="row.param.key"
          class="relative border-b border-line/50"
          :style="{ height: `${ROW}px` }"
          title="Double-click to set a keyframe; drag to select several"
          @pointerdown="dragBand"
          @dblclick="addAt(row, $event)"
        >
          <button
            v-for="(key, i) in valueOf(row).keys"
            :key="i"
            class="absolute top-0 grid size-5.5 -translate-x-1/2 touch-none place-items-center"
            :style="{ left: `${toX(key.at)}px` }"
            :aria-label="`Keyframe of ${row.param.label}. Arrow keys move it by a frame, Delete removes it.`"
            :aria-pressed="has({ key: row.param.key, at: key.at })"
            @pointerdown.stop="dragInTime($event, row, key.at)"
            @dblclick.stop="goTo(key.at)"
            @focus="focusKey($event, { key: row.param.key, at: key.at })"
          >
            <span
              class="block size-2.5 rotate-45"
              :class="has({ key: row.param.key, at: key.at }) ? 'bg-ember' : 'bg-lamp'"
            />
          </button>
        </div>
        <div
          v-if="band"
          class="pointer-events-none absolute border border-dusk bg-dusk/15"
          :style="{ left: `${band.x}px`, top: `${band.y}px`, width: `${band.w}px`, height: `${band.h}px` }"
        />
      </div>
      <KeyframeCurve
        v-if="chosen"
        :row="chosen"
        :keys="keys"
        :clip="clip"
        :width="width"
        :to-x="toX"
        :to-clip-time="toClipTime"
        @press="takeFocus"
      />
      <div
        ref="line"
        class="pointer-events-none absolute inset-y-0 left-0 w-px bg-ivory/60 will-change-transform"
        :style="{ transform: `translateX(${desk.toX(playhead.tick.value)}px)` }"
      />
    </div>
  </section>
</template>
