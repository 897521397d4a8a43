<script setup lang="ts">
import { computed } from 'vue'
import {
  BACKGROUND_FILLS,
  clipEnd,
  formatRate,
  moveViews,
  panAndZoom,
  PICTURE_MOVES,
  REEL_RATES,
  sameRate,
  TICKS_PER_SECOND,
  type Fit,
  type Project,
  type Reel,
} from '@dusk/timeline'
import { useFeatures } from '~/features/registry/feature'
import { useProject } from '~/features/project/projectStore'
import { useNotices } from '~/features/ui/noticesStore'
import { FITS, SHAPES, SHORT_SIDES, sizeFor } from '~/features/ui/sizes'

/** The reel: its name, shape, rate, and what goes for all of its clips. */
const project = useProject()
const notices = useNotices()
/** Parts that features add. */
const reelSections = useFeatures().flatMap(({ reelSection }) => (reelSection ? [reelSection] : []))

const sizes = computed(() => {
  const { width, height } = project.reel!.format
  const list = SHAPES.flatMap((shape) =>
    SHORT_SIDES.slice(1).map((side) => ({ ...sizeFor(shape, side), name: shape.name as string })),
  )
  if (!list.some((entry) => entry.width === width && entry.height === height))
    list.unshift({ width, height, name: 'Own' })
  return list.map((entry) => ({
    value: `${entry.width}x${entry.height}`,
    label: `${entry.name} ${entry.width} × ${entry.height}`,
  }))
})

function setFormat(change: { size?: string; rate?: number }): void {
  const { format } = project.reel!
  const [width, height] = change.size ? change.size.split('x').map(Number) : [format.width, format.height]
  const before = project.document!
  const done = project.perform({
    type: 'setReel',
    reelId: project.reelId,
    set: {
      format: {
        width: width!,
        height: height!,
        rate: change.rate === undefined ? format.rate : REEL_RATES[change.rate]!,
      },
    },
  })
  if (done && change.rate !== undefined) sayRounded(before, project.document!)
}

/** Says what a new frame rate did to the cuts: they lie on other frames, and going back does not bring all of them. */
function sayRounded(before: Project, after: Project): void {
  const moved = Object.values(after.clips).flatMap((clip) => {
    const old = before.clips[clip.id]
    if (!old || (old.start === clip.start && old.length === clip.length)) return []
    return [Math.max(Math.abs(clip.start - old.start), Math.abs(clipEnd(clip) - clipEnd(old)))]
  })
  if (moved.length === 0) return
  const most = Math.round((Math.max(...moved) / TICKS_PER_SECOND) * 1000)
  const step = project.lastStep()
  notices.say(
    `${moved.length === 1 ? 'The edges of one clip were' : `The edges of ${moved.length} clips were`} put on the new ` +
      `frames, by ${most} ms at most. Going back to the old rate would not put all of them back.`,
    'plain',
    { label: 'Undo', run: () => project.undoStep(step) },
  )
}

/** Stills of this reel that nothing moves yet. */
const stills = computed(() => {
  const document = project.document
  if (!document) return []
  return Object.values(document.clips).flatMap((clip) => {
    if (clip.kind !== 'media' || clip.stream !== null || document.tracks[clip.trackId]?.reelId !== project.reelId)
      return []
    const asset = document.assets[clip.assetId]
    const placed = Object.keys(clip.params).some((key) => ['position', 'size', 'rotation'].includes(key))
    return asset?.kind === 'still' &&
      asset.picture &&
      !asset.picture.alpha &&
      !placed &&
      !document.tracks[clip.trackId]!.locked
      ? [{ clip, picture: asset.picture }]
      : []
  })
})
function moveStills(): void {
  const { format, fit } = project.reel!
  const clips = stills.value
    .sort((a, b) => a.clip.start - b.clip.start)
    .map(({ clip, picture }, i) => {
      const move = PICTURE_MOVES[i % 6]!
      const [from, to] = moveViews(move, picture, format)
      return { clipId: clip.id, set: panAndZoom(from, to, clip, picture, format, clip.fit ?? fit) as never }
    })
  project.perform({ type: 'setEach', clips })
}

function addReel(): void {
  const reelId = crypto.randomUUID()
  const name = `Reel ${Object.keys(project.document?.reels ?? {}).length + 1}`
  if (project.perform({ type: 'addReel', reelId, name, format: project.reel!.format })) project.reelId = reelId
}

/** A second one to try something else on. */
function duplicateReel(): void {
  const newReelId = crypto.randomUUID()
  const name = `${project.reel!.name.slice(0, 190)}, copy`
  if (project.perform({ type: 'duplicateReel', reelId: project.reelId, newReelId, name })) project.reelId = newReelId
}

function removeReel(): void {
  const next = Object.keys(project.document?.reels ?? {}).find((id) => id !== project.reelId)
  const id = project.reelId
  if (next && project.perform({ type: 'removeReel', reelId: id })) project.reelId = next
}
</script>

<template>
  <div v-if="project.reel">
    <header class="flex items-baseline gap-2 border-b border-line pb-2">
      <h2 class="truncate font-display text-lg font-semibold">{{ project.reel.name }}</h2>
      <span class="ml-auto text-sm text-muted">reel</span>
    </header>
    <section class="space-y-1.5 py-3">
      <label class="grid grid-cols-[84px_minmax(0,1fr)] items-center gap-2">
        <span class="text-muted">Name</span>
        <input
          class="field"
          :value="project.reel.name"
          maxlength="200"
          @change="
            project.perform({
              type: 'setReel',
              reelId: project.reelId,
              set: { name: ($event.target as HTMLInputElement).value || 'Reel' },
            })
          "
          @keydown.stop
        />
      </label>
      <ChoiceField
        label="Size"
        :value="`${project.reel.format.width}x${project.reel.format.height}`"
        :options="sizes"
        @change="setFormat({ size: $event })"
      />
      <ChoiceField
        label="Frames/s"
        :value="REEL_RATES.findIndex((entry) => sameRate(entry, project.reel!.format.rate))"
        :options="REEL_RATES.map((entry, value) => ({ value, label: formatRate(entry) }))"
        @change="setFormat({ rate: $event })"
      />
      <ChoiceField
        label="Fitting"
        :value="project.reel.fit"
        :options="FITS.slice(1) as { value: Fit; label: string }[]"
        @change="project.perform({ type: 'setReel', reelId: project.reelId, set: { fit: $event } })"
      />
      <ChoiceField
        label="Empty space"
        :value="project.reel.backgroundFill"
        :options="BACKGROUND_FILLS.slice(1) as { value: Reel['backgroundFill']; label: string }[]"
        @change="project.perform({ type: 'setReel', reelId: project.reelId, set: { backgroundFill: $event } })"
      />
      <label class="grid grid-cols-[84px_minmax(0,1fr)] items-center gap-2">
        <span class="text-muted">Background</span>
        <input
          type="color"
          class="field p-1"
          :value="project.reel.background"
          @change="
            project.perform({
              type: 'setReel',
              reelId: project.reelId,
              set: { background: ($event.target as HTMLInputElement).value },
            })
          "
        />
      </label>
    </section>
    <section class="flex flex-wrap gap-2 border-t border-line py-3">
      <button
        class="key key-line"
        :disabled="stills.length === 0"
        title="Every still of this reel that stands quite still drifts or sweeps a little"
        @click="moveStills"
      >
        Give every still a gentle move
      </button>
      <button class="key key-line" @click="addReel">Another reel</button>
      <button class="key key-line" title="A second reel with all that is in this one" @click="duplicateReel">
        Duplicate this reel
      </button>
      <button v-if="Object.keys(project.document!.reels).length > 1" class="key text-rose" @click="removeReel">
        Remove this reel
      </button>
    </section>
    <component :is="entry" v-for="(entry, i) in reelSections" :key="i" />
    <p class="border-t border-line pt-3 text-muted">Select a clip to place it, size it, or set its level.</p>
  </div>
</template>
