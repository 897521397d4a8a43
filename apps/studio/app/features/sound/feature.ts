import { computed } from 'vue'
import AudioLines from '@lucide/vue/dist/esm/icons/audio-lines.mjs'
import { soundEffect } from '@dusk/sound'
import { usePlayer } from '~/features/player/usePlayhead'
import { useProject } from '~/features/project/projectStore'
import { useEffectDrop } from '~/features/params/effectDrop'
import { actionsOf, defineFeature } from '~/features/registry/feature'
import { useDesk } from '~/features/timeline/deskStore'
import ClipSound from './ClipSound.vue'
import HeadMixer from './HeadMixer.vue'
import LevelLines from './LevelLines.vue'
import ReelMixer from './ReelMixer.vue'
import ReelSound from './ReelSound.vue'
import SoundDrawer from './SoundDrawer.vue'
import TrackSound from './TrackSound.vue'
import { useSound } from './soundStore'
import { useSoundActions } from './useSoundActions'

/** Pixels that the mixer takes beside the names of the tracks. */
const MIXER = 216

/** What is heard: levels, effects, mixing, loudness. */
export const sound = defineFeature({
  id: 'sound',
  drawer: { id: 'sound', label: 'Sound', icon: AudioLines, component: SoundDrawer, order: 50, gallery: true },
  details: [{ order: 30, component: TrackSound, props: ({ track }) => (track?.kind === 'sound' ? { track } : null) }],
  clipSections: [{ order: 10, component: ClipSound, props: ({ sounds }) => (sounds.length > 0 ? { sounds } : null) }],
  reelSection: ReelSound,
  timeline: { overlay: LevelLines, head: HeadMixer, panel: ReelMixer },
  useHeadRoom: () => {
    const store = useSound()
    return computed(() => (store.mixing ? MIXER : 0))
  },
  useActions() {
    const desk = useDesk()
    const store = useSound()
    const player = usePlayer()
    const act = useSoundActions()
    return actionsOf('Sound and speed', [
      ['sound.drawer', 'Sound effects', () => desk.toggleDrawer('sound')],
      ['sound.mixer', 'Mixer beside the tracks', () => (store.mixing = !store.mixing)],
      ['sound.louder', 'Selected sounds 1 dB louder', () => act.louder(1)],
      ['sound.quieter', 'Selected sounds 1 dB quieter', () => act.louder(-1)],
      ['sound.target', 'Selected sounds to the loudness target', act.bringToTarget],
      ['sound.duck', 'Music gives way to the voice', () => void act.duck()],
      ['sound.extract', 'Save the sound as a file', () => void act.extract()],
      ['sound.scrub', 'Hear places while looking for them', () => (player.scrubHeard.value = !player.scrubHeard.value)],
    ])
  },
  useMenu() {
    const project = useProject()
    const act = useSoundActions()
    return ({ clip }) => {
      if (clip?.stream === null || !clip) return []
      const music = project.document?.tracks[clip.trackId]?.purpose === 'music'
      return [
        {
          order: 30,
          items: [
            { label: 'To the loudness target', action: 'sound.target', run: act.bringToTarget },
            { label: 'Save the sound as a file', action: 'sound.extract', run: () => void act.extract() },
            ...(music ? [{ label: 'Give way to the voice', action: 'sound.duck', run: () => void act.duck() }] : []),
            ...(clip.params.level === undefined ? [] : [{ label: 'Take the level line off', run: act.clearLevels }]),
          ],
        },
      ]
    }
  },
  useDrops: () => ({
    sound: useEffectDrop('sound', 'sound', (kind) => soundEffect(kind)?.name, 'Sound effects go on sounds'),
  }),
})
