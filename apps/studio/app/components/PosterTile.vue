<script setup lang="ts">
import { onMounted, ref } from 'vue'

/** The first picture of a source's film strip, filling its box. */
const props = defineProps<{ assetId: string }>()
const emit = defineEmits<{ missing: [] }>()
const canvas = ref<HTMLCanvasElement | null>(null)

onMounted(async () => {
  const response = await fetch(`/api/assets/${props.assetId}/strip`).catch(() => null)
  if (!response?.ok) return emit('missing')
  const sheet = await createImageBitmap(await response.blob())
  const target = canvas.value
  if (!target) return
  // The sheet holds many pictures; its description says how large one is.
  const info = await fetch(`/api/assets/${props.assetId}/strip-info`).then(
    (answer) => answer.json() as Promise<{ tileWidth: number; tileHeight: number }>,
  )
  target.width = info.tileWidth
  target.height = info.tileHeight
  target
    .getContext('2d')
    ?.drawImage(sheet, 0, 0, info.tileWidth, info.tileHeight, 0, 0, info.tileWidth, info.tileHeight)
})
</script>

<template>
  <canvas ref="canvas" class="size-full object-cover" />
</template>
