import Type from '@lucide/vue/dist/esm/icons/type.mjs'
import { clipEnd, clipName, reading } from '@dusk/timeline'
import { usePlayer, usePlayhead } from '~/features/player/usePlayhead'
import { useProject } from '~/features/project/projectStore'
import { actionsOf, defineFeature } from '~/features/registry/feature'
import { useDesk } from '~/features/timeline/deskStore'
import { planGenerated, type Generated } from './generated'
import GeneratorDetails from './GeneratorDetails.vue'
import TitleDetails from './TitleDetails.vue'
import TitlesDrawer from './TitlesDrawer.vue'
import { titleFaults } from './titleFaults'
import { useTitles } from './titlesStore'
import { useGenerated } from './useGenerated'

/** Words, shapes, stickers and backgrounds. */
export const titles = defineFeature({
  id: 'titles',
  drawer: { id: 'titles', label: 'Titles', icon: Type, component: TitlesDrawer, order: 40, gallery: true },
  clipSections: [
    {
      order: -10,
      component: TitleDetails,
      props: ({ pictures: [clip], time, goTo }) =>
        clip?.kind === 'title' ? { clip, time, class: 'border-t border-line', onGo: goTo } : null,
    },
    {
      order: -10,
      component: GeneratorDetails,
      props: ({ pictures: [clip], time, goTo }) => (clip?.kind === 'generator' ? { clip, time, onGo: goTo } : null),
    },
  ],
  useActions() {
    const desk = useDesk()
    const generated = useGenerated()
    return actionsOf('Letter', [
      ['letter.type', 'Type on the picture', () => generated.type()],
      ['letter.drawer', 'Titles and shapes', () => desk.toggleDrawer('titles')],
    ])
  },
  useOpenClip() {
    const playhead = usePlayhead()
    const store = useTitles()
    return (clip) => {
      if (clip.kind === 'media' || clip.kind === 'reel') return false
      const { tick } = playhead
      if (tick.value < clip.start || tick.value >= clipEnd(clip)) playhead.goTo(clip.start)
      if (clip.kind === 'title') store.editing = clip.id
      return true
    }
  },
  useBeforeRender() {
    const project = useProject()
    const player = usePlayer()
    return async (reelId) => {
      const { document } = project
      const format = document?.reels[reelId]?.format
      const words: string[] = []
      for (const clip of Object.values(document?.clips ?? {})) {
        if (!format || clip.kind !== 'title' || document!.tracks[clip.trackId]?.reelId !== reelId) continue
        const name = clipName(reading(document!), clip)
        for (const fault of await titleFaults(player, clip, format)) words.push(`${name}: ${fault.words}`)
      }
      return words
    }
  },
  useDrops() {
    const project = useProject()
    const generated = useGenerated()
    return {
      generated: {
        /** Shows the track that has room for it. */
        follow({ start, track }, data) {
          const length = Number(data.length)
          const what = data.generated as Generated
          const to = planGenerated(project.document!, project.reelId, what, start(length), length, track?.id ?? null)
          const trackId = to.command.newTrack ? (track?.id ?? '') : to.trackId
          return {
            ghosts: [{ trackId, start: to.start, length: to.length }],
            words: `${String(data.name)} ${to.words}`,
            refused: false,
          }
        },
        drop({ start, track }, data) {
          const length = Number(data.length)
          generated.put(data.generated as Generated, length, start(length), track?.id ?? null)
        },
      },
    }
  },
})
