<script setup lang="ts">
import { onMounted, ref, watch } from 'vue'
import { readWaveform, WAVEFORM_PARTS } from '@dusk/sound'

/** The waveform of a whole sound, small; nothing where its file can't be read. */
const props = defineProps<{ url: string }>()
const canvas = ref<HTMLCanvasElement | null>(null)
onMounted(load)
watch(() => props.url, load)

async function load(): Promise<void> {
  const response = await fetch(props.url).catch(() => null)
  if (response?.ok) paint(new Uint8Array(await response.arrayBuffer()))
}

function paint(bytes: Uint8Array): void {
  const target = canvas.value
  if (!target) return
  const list = readWaveform(bytes).levels.at(-1)!.channels[0]!
  const steps = list.length / WAVEFORM_PARTS
  const context = target.getContext('2d')!
  context.clearRect(0, 0, target.width, target.height)
  context.fillStyle = getComputedStyle(target).color
  const middle = target.height / 2
  for (let x = 0; x < target.width; x++) {
    const a = Math.floor((x / target.width) * steps)
    const b = Math.max(a + 1, Math.floor(((x + 1) / target.width) * steps))
    let [low, high] = [0, 0]
    for (let i = a; i < b; i++) {
      low = Math.min(low, list[i * WAVEFORM_PARTS]!)
      high = Math.max(high, list[i * WAVEFORM_PARTS + 1]!)
    }
    context.fillRect(x, middle - (high / 127) * middle * 0.9, 1, Math.max(1, ((high - low) / 127) * middle * 0.9))
  }
}
</script>

<template>
  <canvas ref="canvas" width="208" height="117" class="size-full" />
</template>
