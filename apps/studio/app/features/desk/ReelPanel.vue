<script setup lang="ts">
import { useDeskKeys } from '~/features/shortcuts/useDeskKeys'
import { useSource } from '~/features/player/sourceStore'
import { useDesk } from '~/features/timeline/deskStore'

/** The reel as a timeline or as a storyboard: the same clips, seen in two ways. */
const desk = useDesk()
const source = useSource()
useDeskKeys()
</script>

<template>
  <div class="flex h-full flex-col">
    <SourceStrip v-if="source.asset" />
    <TimelineToolbar />
    <StoryboardPanel v-if="desk.view === 'storyboard'" class="min-h-0 flex-1" />
    <TimelinePanel v-else class="min-h-0 flex-1" />
  </div>
</template>
