import type { MediaClip } from '@dusk/timeline'
import { usePlayer } from '~/features/player/usePlayhead'
import { useProject } from '~/features/project/projectStore'
import { actionsOf, defineFeature } from '~/features/registry/feature'
import { useDesk } from '~/features/timeline/deskStore'
import { useNotices } from '~/features/ui/noticesStore'
import ClipTakes from './ClipTakes.vue'
import RecordPanel from './RecordPanel.vue'
import RecordSwitch from './RecordSwitch.vue'
import { useVoiceover } from './voiceover'

/** A voice recorded while the reel plays, in takes. */
export const voiceover = defineFeature({
  id: 'voiceover',
  keys: { 'voiceover.record': ['Shift R'] },
  clipSections: [
    {
      order: 3,
      component: ClipTakes,
      props: ({ clips }) => {
        const [clip] = clips
        return clips.length === 1 && clip?.kind === 'media' && clip.takes ? { clip: clip as MediaClip } : null
      },
    },
  ],
  timeline: { headSwitch: RecordSwitch },
  viewerHead: RecordPanel,
  useActions() {
    const desk = useDesk()
    const project = useProject()
    const notices = useNotices()
    const player = usePlayer()
    const store = useVoiceover()
    return actionsOf('Sound and speed', [
      [
        'voiceover.record',
        'Record a voice on the selected track, or stop',
        () => {
          if (store.state === 'recording' || store.state === 'counting') return void store.stop()
          if (store.state === 'ready') return void store.start()
          const tracks = project.document?.tracks ?? {}
          const clip = [...desk.selection].map((id) => project.document?.clips[id]).find((entry) => entry)
          const wanted = tracks[desk.trackId ?? clip?.trackId ?? '']
          const voice = Object.values(tracks).find(
            (track) => track.reelId === project.reelId && track.purpose === 'voice' && !track.locked,
          )
          const track = wanted?.kind === 'sound' ? wanted : voice
          if (!track) return notices.say('Add a track for a voice first.')
          void store.arm(player, track.id)
        },
      ],
    ])
  },
})
