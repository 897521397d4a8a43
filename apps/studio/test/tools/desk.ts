import { defineComponent, h, ref, shallowRef, type Component } from 'vue'
import { mount, type VueWrapper } from '@vue/test-utils'
import { createPinia, setActivePinia, type Pinia } from 'pinia'
import { onTestFinished, vi } from 'vitest'
import {
  applyCommand,
  clipsOn,
  commandSchema,
  createProject,
  snapToFrame,
  tracksOf,
  type AssetFacts,
  type Clip,
  type CommandInput,
  type Track,
} from '@dusk/timeline'
import { ALL_FEATURES } from '~/features'
import { FEATURES, type Feature } from '~/features/registry/feature'
import { PLAYER } from '~/features/player/usePlayhead'
import type { Player } from '~/features/player/player'
import type { FittedLength } from '@dusk/sound'
import type { FitTask } from '~/features/player/mixTasks'
import type { Meters } from '~/features/player/messages'
import { useDesk } from '~/features/timeline/deskStore'
import { useNotices } from '~/features/ui/noticesStore'
import { useProject } from '~/features/project/projectStore'
import { CARD, HARBOUR, SECOND, Server, SONG } from './server'

// Components know each other by their files' names, as in the studio.
const components = Object.fromEntries(
  Object.entries(import.meta.glob<{ default: Component }>('../../app/features/**/*.vue', { eager: true })).map(
    ([path, module]) => [/([^/]+)\.vue$/.exec(path)![1]!, module.default],
  ),
)

/** A player that keeps a place and plays nothing. */
export class StillPlayer {
  readonly playing = ref(false)
  readonly speed = ref(1)
  readonly tick = shallowRef(0)
  readonly levels = shallowRef<[number, number]>([0, 0])
  readonly failure = ref<string | null>(null)
  readonly meters = shallowRef<Meters | null>(null)
  readonly scrubHeard = ref(true)
  readonly sought = ref(0)
  readonly shown = shallowRef({ tick: -1, ms: 0, helped: 0 })
  readonly stats = shallowRef({ shown: 0, dropped: 0, late: 0, worstLag: 0, underruns: 0 })
  /** Documents that were tried out, and places peeked at. */
  readonly tried: unknown[] = []
  readonly peeks: number[] = []
  readonly listeners = new Set<(tick: number) => void>()

  place = () => this.tick.value
  onFrame = (listener: (tick: number) => void) => {
    this.listeners.add(listener)
    return () => void this.listeners.delete(listener)
  }
  seek = (tick: number) => {
    this.sought.value++
    this.tick.value = Math.max(0, snapToFrame(Math.min(tick, 3600 * SECOND), { num: 30, den: 1 }))
  }
  peek = (tick: number) => void this.peeks.push(tick)
  step = (frames: number) => this.seek(this.tick.value + (frames * SECOND) / 30)
  scrub = (tick: number) => this.seek(tick)
  splitView = () => {}
  refresh = () => {}
  toggle = () => void (this.playing.value = !this.playing.value)
  play = () => Promise.resolve(void (this.playing.value = true))
  pause = () => void (this.playing.value = false)
  shuttle = (direction: number) => void ((this.playing.value = true), (this.speed.value = direction))
  setLoop = () => {}
  tryOut = (project: unknown) => void this.tried.push(project)
  thumbnail = () => Promise.resolve(null)
  titleLayout = () =>
    Promise.resolve({ measure: { left: 100, top: 100, width: 400, height: 80 }, rects: [], letter: null })
  readonly scopes = ref(null)
  readonly looked: object[] = []
  watchScopes = () => () => {}
  look = (change: object) => void this.looked.push(change)
  captureFrame = () => Promise.resolve(new Blob(['png']))
  /** Whose spectrum is wanted, what is measured of each clip by its id, and where somebody speaks. */
  watched: string | null = null
  loudness: Record<string, number | null> = {}
  spoken: { from: number; to: number }[] = []
  fitted: (wanted: FitTask) => FittedLength = ({ from, target }) => ({
    ...{ parts: [{ from, to: from + target }], crossfade: 0, fadeOut: 0, manner: 'matched' as const },
  })
  watchSpectrum = (id: string | null) => void (this.watched = id)
  readonly tasks = {
    measure: ({ clipIds }: { clipIds?: string[] }) => {
      const integrated = this.loudness[clipIds?.[0] ?? 'reel'] ?? null
      return Promise.resolve({ integrated, range: 4, shortTermMost: integrated, truePeak: -6, peak: -6.5 })
    },
    learnNoise: () => Promise.resolve({ print: Array.from({ length: 24 }, () => '-70').join(' ') }),
    extractSound: () => Promise.resolve(new Blob(['RIFF'])),
    findVoice: () => Promise.resolve({ spoken: this.spoken }),
    fit: (wanted: FitTask): Promise<FittedLength> => Promise.resolve(this.fitted(wanted)),
  }
}

/** A desk with an open project, a server behind it and a player that stands still. */
export async function openDesk(prepare: readonly CommandInput[] = [], features: readonly Feature[] = ALL_FEATURES) {
  const pinia: Pinia = createPinia()
  setActivePinia(pinia)
  sessionStorage.clear()
  localStorage.clear()
  let start = createProject('Lantern Night', { width: 1920, height: 1080, rate: { num: 30, den: 1 } })
  const assets: AssetFacts[] = [HARBOUR, SONG, CARD]
  for (const command of [...assets.map((asset): CommandInput => ({ type: 'addAsset', asset })), ...prepare])
    start = applyCommand(start, commandSchema.parse(command), crypto.randomUUID()).project
  const server = new Server(start)
  vi.stubGlobal('fetch', server.fetch)
  const project = useProject()
  await project.open(start.id)
  const player = new StillPlayer()
  const mounted: VueWrapper[] = []
  onTestFinished(() => {
    mounted.forEach((wrapper) => wrapper.unmount())
    project.close()
  })

  const track = (name: string): Track => {
    const found = tracksOf(project.document!, project.reelId).find((entry) => entry.name === name)
    if (!found) throw new Error(`There is no track ${name}.`)
    return found
  }
  const options = {
    global: {
      plugins: [pinia],
      components,
      provide: { [PLAYER as symbol]: player as unknown as Player, [FEATURES as symbol]: features },
    },
    attachTo: document.body,
  }

  return {
    project,
    player,
    server,
    desk: useDesk(),
    track,
    /** Clips of a track by its name, in order. */
    on: (name: string): Clip[] => clipsOn(project.document!, track(name).id),
    /** Start and length of a track's clips, in frames. */
    frames: (name: string) =>
      clipsOn(project.document!, track(name).id).map((clip) => [
        Math.round(clip.start / (SECOND / 30)),
        Math.round(clip.length / (SECOND / 30)),
      ]),
    /** The newest message at the foot of the page. */
    said: () => useNotices().list.at(-1)?.text ?? '',
    /** Lays harbour's picture and sound down, linked. Times in frames. Returns both ids. */
    pair(start: number, length: number, source = 0, pictures = 'Picture 1', sounds = 'Effects'): [string, string] {
      const [p, s, link] = [crypto.randomUUID(), crypto.randomUUID(), crypto.randomUUID()]
      const base = {
        assetId: HARBOUR.id,
        start: (start * SECOND) / 30,
        length: (length * SECOND) / 30,
        source: (source * SECOND) / 30,
        link,
      }
      const done = project.perform({
        type: 'place',
        mode: 'free',
        pieces: [
          { ...base, clipId: p, trackId: track(pictures).id, stream: null },
          { ...base, clipId: s, trackId: track(sounds).id, stream: 0 },
        ],
      })
      if (!done) throw new Error('The pair was refused.')
      return [p, s]
    },
    /** Runs a composable within the desk. */
    within<T>(use: () => T): T {
      let result: T
      const Host = defineComponent(() => {
        result = use()
        return () => h('i')
      })
      mounted.push(mount(Host, options))
      return result!
    },
    /** Shows a component within the desk. */
    show(
      component: Component,
      props: Record<string, unknown> = {},
      more: { global?: { stubs?: Record<string, unknown> } } = {},
    ) {
      const wrapper = mount(component, { props, ...options, global: { ...options.global, ...more.global } as never })
      mounted.push(wrapper)
      return wrapper
    },
  }
}
