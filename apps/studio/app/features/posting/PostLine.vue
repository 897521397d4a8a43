<script setup lang="ts">
import { computed } from 'vue'
import ExternalLink from '@lucide/vue/dist/esm/icons/external-link.mjs'
import RotateCw from '@lucide/vue/dist/esm/icons/rotate-cw.mjs'
import X from '@lucide/vue/dist/esm/icons/x.mjs'
import { postWords, type PostRow } from './posting'

/** A film that was sent somewhere: how far it is, and what can be done about it. */
const props = defineProps<{ post: PostRow }>()
const emit = defineEmits<{ cancel: []; resume: []; forget: [] }>()
const underWay = computed(() => props.post.state === 'waiting' || props.post.state === 'working')
const part = computed(() => props.post.sent / props.post.file.bytes)
const words = computed(() => postWords(props.post))
</script>

<template>
  <div class="mt-3 border-t border-line pt-3" :aria-label="`Post ${post.words.title}`" role="group">
    <div class="flex flex-wrap items-center gap-2 text-sm">
      <p class="min-w-0 flex-1" :class="post.state === 'failed' ? 'text-rose' : 'text-muted'">
        <span class="text-ivory">{{ post.place }}:</span> {{ words }}
      </p>
      <a v-if="post.page" class="key key-line" :href="post.page" target="_blank" rel="noopener noreferrer"
        ><ExternalLink :size="15" /> See it there</a
      >
      <button v-if="underWay" class="key key-line" @click="emit('cancel')"><X :size="15" /> Stop</button>
      <template v-else>
        <button v-if="post.state !== 'ready'" class="key key-line" @click="emit('resume')">
          <RotateCw :size="15" /> {{ post.sent > 0 ? 'Go on' : 'Try again' }}
        </button>
        <button
          class="key px-1.5 text-muted"
          :aria-label="`Forget the post ${post.words.title}`"
          title="Takes this line away; what is posted stays posted"
          @click="emit('forget')"
        >
          <X :size="16" />
        </button>
      </template>
    </div>
    <div
      v-if="underWay"
      class="mt-2 h-1.5 rounded-full bg-line"
      role="progressbar"
      :aria-valuenow="Math.round(part * 100)"
      aria-valuemin="0"
      aria-valuemax="100"
      :aria-label="`Sending ${post.words.title}`"
    >
      <div class="h-full rounded-full bg-ember" :style="{ width: `${part * 100}%` }" />
    </div>
  </div>
</template>
