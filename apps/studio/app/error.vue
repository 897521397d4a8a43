<script setup lang="ts">
import type { NuxtError } from '#app'

/** What is shown in place of a page that is not there, or that broke. */
const props = defineProps<{ error: NuxtError }>()
const missing = props.error.statusCode === 404
const address = location.pathname
const again = () => location.reload()
</script>

<template>
  <main class="mx-auto flex h-full max-w-md flex-col justify-center p-10">
    <img src="/lantern.svg" alt="" class="size-12" />
    <h1 class="mt-4 font-display text-2xl font-semibold">
      {{ missing ? 'There is no such page' : 'This page broke' }}
    </h1>
    <p v-if="missing" class="mt-3 text-muted">
      Nothing of Dusk Reel lies at <span class="font-mono break-all text-ivory">{{ address }}</span>. The link may be of
      another version, or was not copied whole.
    </p>
    <template v-else>
      <p class="mt-3 text-muted">
        What you did is kept; edits that were not sent yet wait in this browser. If it breaks again, please report this:
      </p>
      <code class="mt-3 block rounded-md border border-line bg-panel px-3 py-2 font-mono break-words select-all">{{
        error.message
      }}</code>
    </template>
    <div class="mt-6 flex gap-3">
      <a href="/" class="key key-ember px-3">To the projects</a>
      <button v-if="!missing" class="key key-line px-3" @click="again">Load it again</button>
    </div>
  </main>
</template>
