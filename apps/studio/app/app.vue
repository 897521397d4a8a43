<script setup lang="ts">
/** What this browser lacks for the desk; empty in current Chromium-family browsers. */
const lacking = [
  ['threads with shared memory', typeof SharedArrayBuffer !== 'undefined' && crossOriginIsolated],
  ['decoding of video (WebCodecs)', typeof VideoDecoder !== 'undefined'],
  ['drawing in the background (OffscreenCanvas)', typeof OffscreenCanvas !== 'undefined'],
]
  .filter(([, there]) => !there)
  .map(([name]) => name)
</script>

<template>
  <div v-if="lacking.length > 0" class="mx-auto max-w-md p-10">
    <h1 class="font-display text-2xl">This browser can’t run Dusk Reel</h1>
    <p class="mt-3 text-muted">
      It lacks {{ lacking.join(', ') }}. Open this page with a current Chromium-family browser.
    </p>
  </div>
  <NuxtPage v-else />
  <NoticeList />
</template>
