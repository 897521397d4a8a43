<script setup lang="ts">
import { onMounted, ref } from 'vue'

/** The first picture of a source's film strip, filling its box. */
const props = defineProps<{ poster: { url: string; tileWidth: number; tileHeight: number } }>()
const emit = defineEmits<{ missing: [] }>()
const canvas = ref<HTMLCanvasElement | null>(null)

onMounted(async () => {
  const response = await fetch(props.poster.url).catch(() => null)
  if (!response?.ok) return emit('missing')
  const sheet = await createImageBitmap(await response.blob())
  const target = canvas.value
  if (!target) return
  const { tileWidth, tileHeight } = props.poster
  target.width = tileWidth
  target.height = tileHeight
  target.getContext('2d')?.drawImage(sheet, 0, 0, tileWidth, tileHeight, 0, 0, tileWidth, tileHeight)
})
</script>

<template>
  <canvas ref="canvas" class="size-full object-cover" />
</template>
