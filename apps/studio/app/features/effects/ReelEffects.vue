<script setup lang="ts">
import { usePlayhead } from '~/features/player/usePlayhead'
import { useProject } from '~/features/project/projectStore'
import PictureStack from './PictureStack.vue'

/** What is done to all of the reel's picture. */
const project = useProject()
const playhead = usePlayhead()
</script>

<template>
  <PictureStack owner="reel" :owner-id="project.reelId" :time="playhead.tick.value" @go="playhead.goTo($event)" />
</template>
