<script setup lang="ts">
import { provideActions } from './feature'

/** Everything inside shares one set of actions. */
provideActions()
</script>

<template><slot /></template>
