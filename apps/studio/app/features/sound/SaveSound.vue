<script setup lang="ts">
import { useSound } from './soundStore'
import { useSoundActions } from './useSoundActions'

/** What is heard of the selected sounds, or of the reel, as a file. */
const sound = useSound()
const act = useSoundActions()
void sound.load()
const KINDS = [
  { value: 'wav' as const, label: 'WAV' },
  { value: 'flac' as const, label: 'FLAC' },
  { value: 'mp3' as const, label: 'MP3' },
]
</script>

<template>
  <div class="flex items-center gap-2">
    <ChoiceField
      class="min-w-0 flex-1"
      label="Sound file"
      :value="sound.preferences.file"
      :options="KINDS"
      @change="sound.set({ file: $event })"
    />
    <button
      class="key key-line shrink-0"
      title="WAV of 24 bits; FLAC is as good and smaller, MP3 the smallest"
      :disabled="act.extracting.value"
      @click="act.extract()"
    >
      {{ act.extracting.value ? 'Saving …' : 'Save' }}
    </button>
  </div>
</template>
