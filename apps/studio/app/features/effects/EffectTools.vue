<script setup lang="ts">
import { hueOf, hueRangeAt, whiteFrom } from '@dusk/compositor'
import type { Effect } from '@dusk/timeline'
import { useNotices } from '~/features/ui/noticesStore'
import { useEffects } from './effectsStore'

/** What some effects can be told by pointing at the picture. */
const props = defineProps<{ effect: Effect; set: (settings: object) => void }>()
const effects = useEffects()
const notices = useNotices()

function point(words: string, use: (hex: string) => void): void {
  effects.pipette = { words, use, without: props.effect.id }
}
const rgbOf = (hex: string) => {
  const value = Number.parseInt(hex.slice(1), 16)
  return Float64Array.from([(value >> 16) / 255, ((value >> 8) & 255) / 255, (value & 255) / 255])
}
const keyColour = () => point('Click the colour to take out.', (colour) => props.set({ colour, more: null }))
function anotherKey(): void {
  point('Click another shade of it.', (hex) => {
    const more = `${String(props.effect.settings.more ?? '')} ${hex}`.trim()
    props.set({ more: more.slice(-95) })
  })
}
const grey = () => point('Click what should be grey.', (hex) => props.set(whiteFrom(hex).settings))
const hue = () => point('Click the colour to change.', (hex) => props.set({ hue: Math.round(hueOf(rgbOf(hex))) }))
const range = () =>
  point('Click a colour.', (hex) =>
    notices.say(`That is among the ${hueRangeAt(hueOf(rgbOf(hex))).name.toLowerCase()}.`),
  )
</script>

<template>
  <div v-if="['keyColour', 'balance', 'oneHue', 'hues'].includes(effect.kind)" class="flex flex-wrap gap-1 py-1">
    <template v-if="effect.kind === 'keyColour'">
      <button class="key h-7 px-2" @click="keyColour">Pick the colour</button>
      <button class="key h-7 px-2" @click="anotherKey">Another shade</button>
    </template>
    <button v-if="effect.kind === 'balance'" class="key h-7 px-2" @click="grey">This is grey …</button>
    <button v-if="effect.kind === 'oneHue'" class="key h-7 px-2" @click="hue">Pick the hue</button>
    <button v-if="effect.kind === 'hues'" class="key h-7 px-2" @click="range">Which range is this?</button>
  </div>
</template>
