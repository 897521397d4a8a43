import {
  frameToTicks,
  reelsOf,
  secondsToTicks,
  tracksOf,
  type Command,
  type Format,
  type Piece,
  type Project,
  commandSchema,
  type CommandInput,
} from '@dusk/timeline'

/** A demo project: which files it holds and how they are arranged. */
export interface DemoProject {
  name: string
  format: Format
  files: string[]
  /** Commands that arrange the sources once they are in the library. */
  arrange(project: Project, asset: (file: string) => string): Command[]
}

const uuid = () => crypto.randomUUID()

/** Tools for arranging on one reel, in seconds. */
function desk(project: Project) {
  const reel = reelsOf(project)[0]!
  const { rate } = reel.format
  const tracks = tracksOf(project, reel.id)
  const track = (name: string) => tracks.find((entry) => entry.name === name)!
  const at = (seconds: number) => frameToTicks(Math.round((seconds * rate.num) / rate.den), rate)
  const commands: Command[] = []
  const add = (input: CommandInput) => commands.push(commandSchema.parse(input))
  /**
   * Puts part of a source on a track, with its sound on another when `sound` is named. Returns the picture's or the
   * sound's clip.
   */
  const put = (
    assetId: string,
    on: string,
    start: number,
    length: number,
    from = 0,
    sound?: string,
    gain = 0,
  ): string => {
    const base = {
      assetId,
      start: at(start),
      length: at(length),
      source: secondsToTicks(from),
      link: sound ? uuid() : null,
    }
    const main: Piece = {
      ...base,
      clipId: uuid(),
      trackId: track(on).id,
      stream: track(on).kind === 'sound' ? 0 : null,
      gain,
    }
    const pieces = [main]
    if (sound) pieces.push({ ...base, clipId: uuid(), trackId: track(sound).id, stream: 0, gain })
    add({ type: 'place', mode: 'free', pieces })
    return main.clipId
  }
  return { reel, track, add, put, commands }
}

const seconds = secondsToTicks

/** Changes between the shots of the night, and its coming and going. */
function joins(harbour: string, boats: string, keeper: string, quay: string, crowd: string, last: string) {
  const join = (leftId: string | null, rightId: string | null, kind: string, length: number, settings = {}) => {
    const [before, after] = leftId && rightId ? [length / 2, length / 2] : leftId ? [length, 0] : [0, length]
    return {
      id: uuid(),
      leftId,
      rightId,
      before: seconds(before),
      after: seconds(after),
      kind,
      settings,
      missing: 'hold' as const,
    }
  }
  return [
    join(harbour, boats, 'dissolve', 1.2),
    join(boats, keeper, 'emberDim', 0.8),
    join(quay, crowd, 'tide', 0.8, { softness: 6 }),
    join(crowd, last, 'softDissolve', 1),
    join(last, null, 'dip', 1),
  ]
}

/** The title, the keeper's name, and the farewell, on a track of their own. */
function letters(reelId: string): CommandInput {
  const trackId = uuid()
  const move = (name: string, length: number, unit: 'letter' | 'line' | 'whole') => ({
    move: name,
    length: seconds(length),
    unit,
    order: 'forward' as const,
    overlap: 85,
    settings: {},
  })
  const fade = move('fade', 0.6, 'whole')
  const words = (
    text: string,
    start: number,
    length: number,
    style: object,
    rest: object = {},
    params: object = {},
  ) => ({
    kind: 'title' as const,
    clipId: crypto.randomUUID(),
    trackId,
    start: seconds(start),
    length: seconds(length),
    title: { text, style: style as never, runs: [], in: fade, out: fade, during: null, ...rest },
    params: params as never,
  })
  const name = 'Ada Merrow\nkeeper of the light'
  return {
    type: 'addGenerated',
    mode: 'free',
    newTrack: { trackId, reelId },
    generated: [
      words(
        'Lantern Night',
        0.6,
        4.6,
        {
          font: 'Fraunces',
          size: 170,
          weight: 600,
          fill: 'gradient',
          colour: '#fff0c8',
          colour2: '#ff9e5e',
          letterShadow: 55,
          shadowBlur: 26,
        },
        { in: move('surface', 1.4, 'letter') },
      ),
      words(
        name,
        12.8,
        4.2,
        {
          font: 'Manrope',
          size: 54,
          weight: 700,
          align: 'left',
          box: 100,
          boxEdge: 'bar',
          boxColour: '#ff9e5e',
          boxPadding: 24,
          letterShadow: 60,
        },
        { in: move('rise', 0.7, 'line'), runs: [{ from: 11, to: name.length, style: { size: 36, weight: 400 } }] },
        { position: [-520, 350] },
      ),
      words('Good night', 32.2, 3, {
        font: 'Fraunces',
        size: 150,
        weight: 400,
        italic: true,
        colour: '#f6e7c8',
        letterShadow: 50,
        shadowBlur: 30,
      }),
    ],
  }
}

/** The projects that an empty Dusk Reel starts with. */
export function demoProjects(): DemoProject[] {
  return [
    {
      name: 'Lantern Night at Marrow Quay',
      format: { width: 1920, height: 1080, rate: { num: 30, den: 1 } },
      files: [
        'harbour-wide.mp4',
        'boats-drifting.mp4',
        'paper-folding.mp4',
        'keeper-talks.mp4',
        'handheld-quay.mp4',
        'quay-crowd.mp4',
        'night-pier.mp4',
        'green-presenter.mp4',
        'steps-tall.mp4',
        'keeper-clean-voice.wav',
        'night-song.wav',
        'whoosh.wav',
        'splash.wav',
        'bell.wav',
        'paper-rustle.wav',
        'steps-on-stone.wav',
        'far-gulls.wav',
        'quay-at-seven.jpg',
        'last-light.jpg',
        'paper-boat.png',
        'moon-lantern.png',
      ],
      arrange(project, asset) {
        const { reel, put, add, commands, track } = desk(project)
        const harbour = put(asset('harbour-wide.mp4'), 'Picture 1', 0, 6, 0.5, 'Effects', -6)
        const boats = put(asset('boats-drifting.mp4'), 'Picture 1', 6, 6, 1, 'Effects', -6)
        const keeper = put(asset('keeper-talks.mp4'), 'Picture 1', 12, 10, 1.6)
        put(asset('keeper-clean-voice.wav'), 'Voice', 12, 10, 3.3)
        put(asset('paper-folding.mp4'), 'Picture 2', 15.5, 4, 2)
        const quay = put(asset('handheld-quay.mp4'), 'Picture 1', 22, 5, 1, 'Effects', -8)
        const crowd = put(asset('quay-crowd.mp4'), 'Picture 1', 27, 4.5, 0.2, 'Effects', -8)
        const last = put(asset('last-light.jpg'), 'Picture 1', 31.5, 4)
        put(asset('night-song.wav'), 'Music', 0, 35.5, 0, undefined, -9)
        put(asset('bell.wav'), 'Effects', 31.5, 3.4, 0, undefined, -4)
        const lantern = put(asset('moon-lantern.png'), 'Picture 2', 1, 4)
        add({ type: 'setParams', clipIds: [lantern], set: { position: [560, -260], size: 36, opacity: 92 } })
        const boat = put(asset('paper-boat.png'), 'Picture 2', 32.2, 3.3)
        add({ type: 'setParams', clipIds: [boat], set: { position: [-420, 190], size: 50 } })
        add({ type: 'setClips', clipIds: [keeper], set: { label: 'dusk' } })
        add({ type: 'addTransitions', transitions: joins(harbour, boats, keeper, quay, crowd, last) })
        add(letters(reel.id))
        // The last picture drifts closer.
        const drift = (from: number, to: number) => ({
          keys: [
            { at: 0, value: from, ease: 'both' as const },
            { at: seconds(4), value: to, ease: 'both' as const },
          ],
        })
        add({ type: 'setParams', clipIds: [last], set: { size: drift(112, 128) } })
        add({ type: 'setTrack', trackId: track('Music').id, set: { gain: -3 } })
        add({ type: 'setReel', reelId: reel.id, set: { name: 'Lantern night' } })
        return commands
      },
    },
    {
      name: 'Quay steps, tall cut',
      format: { width: 1080, height: 1920, rate: { num: 30, den: 1 } },
      files: [
        'steps-tall.mp4',
        'harbour-wide.mp4',
        'boats-drifting.mp4',
        'night-song.wav',
        'steps-on-stone.wav',
        'moon-lantern.png',
      ],
      arrange(project, asset) {
        const { reel, put, add, commands } = desk(project)
        put(asset('steps-tall.mp4'), 'Picture 1', 0, 4.5, 0.3, 'Effects', -3)
        const wide = put(asset('harbour-wide.mp4'), 'Picture 1', 4.5, 4, 1, 'Effects', -8)
        add({ type: 'setClips', clipIds: [wide], set: { fit: 'fill' } })
        const boats = put(asset('boats-drifting.mp4'), 'Picture 1', 8.5, 4, 2, 'Effects', -8)
        add({ type: 'setClips', clipIds: [boats], set: { fit: 'fill' } })
        const lantern = put(asset('moon-lantern.png'), 'Picture 2', 5, 3)
        add({ type: 'setParams', clipIds: [lantern], set: { position: [0, -520], size: 50 } })
        put(asset('night-song.wav'), 'Music', 0, 12.5, 20, undefined, -8)
        add({ type: 'setReel', reelId: reel.id, set: { name: 'Quay steps' } })
        return commands
      },
    },
  ]
}
