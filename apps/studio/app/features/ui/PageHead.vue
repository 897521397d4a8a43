<script setup lang="ts">
import ChevronLeft from '@lucide/vue/dist/esm/icons/chevron-left.mjs'
import { useRouter } from 'vue-router'

/** Head of a page beside the desk: the way back, what it is, and what can be done on all of it. */
defineProps<{ title: string }>()
const router = useRouter()
</script>

<template>
  <header class="mb-6 flex items-center gap-2">
    <button class="key px-1.5" aria-label="Back" @click="router.back()"><ChevronLeft :size="18" /></button>
    <h1 class="mr-auto font-display text-2xl font-semibold">{{ title }}</h1>
    <slot />
  </header>
</template>
