<script setup lang="ts">
import { computed, ref } from 'vue'
import Download from '@lucide/vue/dist/esm/icons/download.mjs'
import Pause from '@lucide/vue/dist/esm/icons/pause.mjs'
import Play from '@lucide/vue/dist/esm/icons/play.mjs'
import Repeat from '@lucide/vue/dist/esm/icons/repeat.mjs'
import RotateCw from '@lucide/vue/dist/esm/icons/rotate-cw.mjs'
import Trash from '@lucide/vue/dist/esm/icons/trash.mjs'
import Send from '@lucide/vue/dist/esm/icons/send.mjs'
import X from '@lucide/vue/dist/esm/icons/x.mjs'
import { deliveryOf, type DeliveryId } from '@dusk/interchange'
import { formatRate } from '@dusk/timeline'
import PostDialog from '~/features/posting/PostDialog.vue'
import PostLine from '~/features/posting/PostLine.vue'
import { formatBytes } from '~/features/ui/sizes'
import RenderDetails from './RenderDetails.vue'
import RenderUnderWay from './RenderUnderWay.vue'
import type { RenderRow } from './renderRow'

const props = defineProps<{ render: RenderRow }>()
const emit = defineEmits<{
  cancel: []
  remove: []
  pause: []
  resume: []
  posted: []
  /** Something is to be done about a post of it. */
  post: [id: string, what: 'cancel' | 'resume' | 'forget']
}>()
const playing = ref(false)
const looking = ref(false)
const posting = ref(false)

/** Films that browsers may play, as they are asked for them (RFC 6381). */
const PLAYED: Partial<Record<DeliveryId, string>> = {
  'mp4-h264': 'video/mp4; codecs="avc1.640028, mp4a.40.2"',
  'mp4-h265': 'video/mp4; codecs="hvc1.1.6.L120.90, mp4a.40.2"',
  'mp4-av1': 'video/mp4; codecs="av01.0.08M.08, mp4a.40.2"',
  'webm-vp9': 'video/webm; codecs="vp9, opus"',
  'webm-av1': 'video/webm; codecs="av01.0.08M.08, opus"',
}
/** What the browser shows of the file, if anything. */
const shows = computed(() => {
  const { kind } = delivery.value
  if (kind === 'loop' || kind === 'still') return 'picture'
  if (kind === 'pictures') return null
  if (kind === 'sound') return 'sound'
  return document.createElement('video').canPlayType(PLAYED[props.render.settings.format ?? 'mp4-h264'] ?? '')
    ? 'film'
    : null
})

const delivery = computed(() => deliveryOf(props.render.settings.format))
const underWay = computed(() => ['waiting', 'working', 'paused'].includes(props.render.state))

/** What was asked for: what moves has a size and a rate, a still has a size, sound has neither. */
const asked = computed(() => {
  const { width, height, rate, quality } = props.render.settings
  const { kind, label } = delivery.value
  const size = kind === 'sound' ? [] : [`${width} × ${height}`]
  const pace = kind === 'sound' || kind === 'still' ? [] : [`${formatRate(rate)} frames/s`]
  return [...size, ...pace, label, quality].join(', ')
})

/** What the file was found to hold. */
function heldWords({ frames, seconds }: NonNullable<RenderRow['report']>): string {
  const { kind } = delivery.value
  if (kind === 'still') return '1 picture'
  const long = `${seconds.toFixed(2)} s`
  return kind === 'sound' ? long : `${frames} ${frames === 1 ? 'frame' : 'frames'}, ${long}`
}

/** How many parts did not have to be made. */
function reusedWords({ reused, chunks }: NonNullable<RenderRow['report']>): string {
  return reused > 0 ? `, ${reused} of ${chunks} parts ${reused === 1 ? 'was' : 'were'} there already` : ''
}
</script>

<template>
  <article class="rounded-md border border-line bg-panel p-4" :aria-label="`Render ${render.name}`">
    <div class="flex flex-wrap items-center gap-3">
      <img
        v-if="render.pictured"
        :src="`/api/renders/${render.id}/poster`"
        alt=""
        class="h-14 max-w-28 rounded-sm object-cover"
      />
      <div class="min-w-0 flex-1">
        <h2 class="truncate font-display text-lg font-semibold">{{ render.name }}</h2>
        <p class="text-sm text-muted">
          {{ asked }} · from
          <NuxtLink :to="`/projects/${render.projectId}`" class="underline decoration-line">{{
            render.projectName
          }}</NuxtLink>
        </p>
      </div>
      <template v-if="render.state === 'ready'">
        <button v-if="shows" class="key key-line" @click="playing = !playing">
          <Play :size="15" /> {{ playing ? 'Close' : delivery.kind === 'still' ? 'Show' : 'Play' }}
        </button>
        <a class="key key-ember px-3" :href="`/api/renders/${render.id}/file?download`" download
          ><Download :size="15" /> Download</a
        >
        <button v-if="delivery.kind === 'film'" class="key key-line" @click="posting = true">
          <Send :size="15" /> Post
        </button>
      </template>
      <NuxtLink
        v-if="!underWay"
        class="key key-line"
        :to="`/projects/${render.projectId}?render=${render.id}`"
        title="Opens its project with these settings"
        ><Repeat :size="15" /> Again, changed</NuxtLink
      >
      <template v-if="underWay">
        <button v-if="render.state === 'paused'" class="key key-line" @click="emit('resume')">
          <Play :size="15" /> Go on
        </button>
        <button v-else class="key key-line" @click="emit('pause')"><Pause :size="15" /> Pause</button>
        <button class="key key-line" @click="emit('cancel')"><X :size="15" /> Cancel</button>
      </template>
      <template v-else>
        <button v-if="render.state !== 'ready'" class="key key-line" @click="emit('resume')">
          <RotateCw :size="15" /> Try again
        </button>
        <button
          class="key px-1.5 text-muted"
          :aria-label="`Remove the render ${render.name}`"
          title="Remove it and its file"
          @click="emit('remove')"
        >
          <Trash :size="16" />
        </button>
      </template>
    </div>
    <RenderUnderWay v-if="underWay" :render="render" />
    <p v-else-if="render.state === 'failed'" class="mt-2 text-sm text-rose">{{ render.message ?? 'failed' }}</p>
    <p v-else-if="render.state === 'cancelled'" class="mt-2 text-sm text-muted">cancelled</p>
    <p v-else-if="render.report" class="mt-2 text-sm text-muted">
      <span class="text-moss">Checked:</span> {{ heldWords(render.report) }}, {{ formatBytes(render.report.bytes)
      }}{{ render.report.loudness !== null ? `, ${render.report.loudness.toFixed(1).replace('-', '−')} LUFS` : ''
      }}{{ (render.report.peak ?? 0) > 1 ? ', sound clipped' : '' }} · took {{ render.report.took.toFixed(1) }} s{{
        reusedWords(render.report)
      }}{{ render.settings.streamCopy ? `, ${render.report.copied || 'no'} frames in their original quality` : '' }}
      <button class="ml-1 underline decoration-line" :aria-expanded="looking" @click="looking = !looking">
        {{ looking ? 'Less' : 'What is in it' }}
      </button>
    </p>
    <RenderDetails v-if="looking && render.state === 'ready'" :render="render" :film="delivery.kind === 'film'" />
    <img
      v-if="playing && shows === 'picture'"
      class="mt-3 max-h-[60vh] max-w-full rounded-md bg-ground"
      :src="`/api/renders/${render.id}/file`"
      alt=""
    />
    <audio
      v-else-if="playing && shows === 'sound'"
      class="mt-3 w-full"
      :src="`/api/renders/${render.id}/file`"
      controls
      autoplay
    />
    <video
      v-else-if="playing"
      class="mt-3 max-h-[60vh] w-full rounded-md bg-ground"
      :src="`/api/renders/${render.id}/file`"
      controls
      autoplay
    />
    <PostLine
      v-for="post in render.posts"
      :key="post.id"
      :post="post"
      @cancel="emit('post', post.id, 'cancel')"
      @resume="emit('post', post.id, 'resume')"
      @forget="emit('post', post.id, 'forget')"
    />
    <PostDialog
      v-if="posting"
      :render-id="render.id"
      :name="render.name"
      @close="posting = false"
      @posted="((posting = false), emit('posted'))"
    />
  </article>
</template>
