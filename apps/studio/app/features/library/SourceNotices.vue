<script setup lang="ts">
import GivenFile from './GivenFile.vue'
import MissingSources from './MissingSources.vue'

/** What is to be said of sources, over the picture. */
</script>

<template>
  <div>
    <MissingSources />
    <GivenFile />
  </div>
</template>
