import { useEventListener } from '@vueuse/core'
import { defineStore } from 'pinia'
import { computed, ref, shallowRef, watch } from 'vue'
import { frameToTicks, SAMPLE_RATE, TICKS_PER_SAMPLE, TICKS_PER_SECOND } from '@dusk/timeline'
import { useUploads } from '~/features/library/uploadsStore'
import type { Player } from '~/features/player/player'
import { useSource } from '~/features/player/sourceStore'
import { SoundInput, type RecordedPiece } from '~/features/player/soundInput'
import { useProject } from '~/features/project/projectStore'
import { useDesk } from '~/features/timeline/deskStore'
import { useNotices } from '~/features/ui/noticesStore'
import { usePersonSetting } from '~/features/ui/usePersonSetting'
import { RECORDING_DEFAULTS, type RecordingPreferences } from '~~/shared/preferences'
import { nextName, placed, withoutEarlier } from './placement'
import { recordings, RecordingWriter, voiceFile, type RecordingFacts } from './recordingStore'

/** Above this a microphone is as good as over its limit. */
const LOUD = 0.94
/** Quieter than this for seconds on end, nothing is plugged in or everything is turned down. */
const FAINT = 0.003
/** Samples that are written down at a time: half a second. */
const PART = SAMPLE_RATE / 2

/**
 * A voice recorded while the reel plays. `ready`: a microphone is open and its level is shown; `counting`: the reel
 * runs in, nothing is kept yet; `keeping`: what was said is on its way into the library.
 */
export const useVoiceover = defineStore('voiceover', () => {
  const project = useProject()
  const desk = useDesk()
  const uploads = useUploads()
  const source = useSource()
  const notices = useNotices()
  const { value, load, change } = usePersonSetting<Partial<RecordingPreferences>>('recording', RECORDING_DEFAULTS)
  const preferences = computed((): RecordingPreferences => ({ ...RECORDING_DEFAULTS, ...value.value }))
  const set = (changed: Partial<RecordingPreferences>) =>
    change(...Object.entries(changed).map(([key, entry]) => ({ path: [key], value: entry as never })))

  const state = ref<'off' | 'opening' | 'ready' | 'counting' | 'recording' | 'keeping'>('off')
  const trackId = ref<string | null>(null)
  const inputs = shallowRef<{ id: string; name: string }[]>([])
  /** Peak of what the microphone hears now, as a factor; whether it was too loud of late. */
  const level = ref(0)
  const tooLoud = ref(false)
  const faint = ref(false)
  /** Seconds until it is recorded, and seconds recorded. */
  const countdown = ref(0)
  const seconds = ref(0)
  const measuring = ref(false)
  const facts = shallowRef<RecordingFacts | null>(null)

  let player: Player | null = null
  let input: SoundInput | null = null
  let loudUntil = 0
  let heardAt = 0
  /** What was recorded and not written down yet. */
  let part: { at: number; samples: number[] } | null = null
  let writer: RecordingWriter | null = null
  let count: ReturnType<typeof setTimeout> | null = null
  let follow: (() => void) | null = null

  /** Delay of the microphone that is open, in samples. */
  const delay = computed(() => preferences.value.delays[preferences.value.deviceId ?? ''] ?? null)
  const track = computed(() => (trackId.value ? (project.document?.tracks[trackId.value] ?? null) : null))

  function hear({ samples, played }: RecordedPiece): void {
    let peak = 0
    for (const sample of samples) peak = Math.max(peak, Math.abs(sample))
    level.value = Math.max(peak, level.value * 0.8)
    const now = performance.now()
    if (peak >= LOUD) loudUntil = now + 2500
    if (peak >= FAINT) heardAt = now
    tooLoud.value = now < loudUntil
    faint.value = now - heardAt > 3000
    if (!facts.value || played < 0 || (state.value !== 'counting' && state.value !== 'recording')) return
    part ??= { at: played, samples: [] }
    // The reel stood still for a moment: from here on it lies elsewhere.
    if (played !== part.at + part.samples.length) {
      write()
      part = { at: played, samples: [] }
    }
    for (const sample of samples) part.samples.push(sample)
    if (part.samples.length >= PART) write()
  }

  function write(): void {
    if (!part || !writer || part.samples.length === 0) return
    const { at, samples } = part
    part = { at: at + samples.length, samples: [] }
    writer.add({ at, samples: Float32Array.from(samples) })
  }

  function openWriter(id: string): RecordingWriter {
    let said = false
    return new RecordingWriter(id, () => {
      if (said) return
      said = true
      notices.warn('The browser has no room to write the recording down. Stop, free some space, and record again.')
    })
  }

  useEventListener('pagehide', () => {
    write()
    writer?.hurry()
  })

  /** Opens a microphone for a track. */
  async function arm(on: Player, id: string): Promise<void> {
    if (state.value !== 'off') disarm()
    // It is the reel that plays while something is recorded.
    if (source.assetId) source.close(on.place())
    player = on
    trackId.value = id
    state.value = 'opening'
    await load()
    await open()
  }

  async function open(): Promise<void> {
    input?.close()
    input = null
    state.value = 'opening'
    try {
      const { deviceId } = preferences.value
      inputs.value = await SoundInput.inputs()
      // One that is not plugged in today is passed over.
      const known = deviceId && inputs.value.some(({ id }) => id === deviceId) ? deviceId : null
      const opened = await player!.openInput(known)
      if (state.value !== 'opening') return opened.close()
      input = opened
      heardAt = performance.now()
      opened.onPiece = hear
      opened.onLost = lost
      inputs.value = await SoundInput.inputs()
      state.value = 'ready'
    } catch (error) {
      notices.warn((error as Error).message)
      disarm()
    }
  }

  function lost(): void {
    const was = state.value
    notices.warn(
      was === 'recording'
        ? 'The microphone went away. What was recorded until then is kept.'
        : 'The microphone went away. Plug it in and press again.',
    )
    if (was === 'recording') void stop()
    else disarm()
  }

  function disarm(): void {
    if (count) clearTimeout(count)
    follow?.()
    follow = count = null
    input?.close()
    input = null
    facts.value = part = writer = null
    trackId.value = null
    level.value = 0
    state.value = 'off'
  }

  async function choose(deviceId: string): Promise<void> {
    await set({ deviceId })
    if (state.value === 'ready') await open()
  }

  async function measureDelay(): Promise<void> {
    if (!input || measuring.value) return
    measuring.value = true
    const found = await input.measureDelay()
    measuring.value = false
    if (found === null)
      return notices.warn(
        'The sweeps were not heard. Turn the loudspeakers up, hold the microphone near, and measure again.',
      )
    await set({ delays: { ...preferences.value.delays, [preferences.value.deviceId ?? '']: found } })
    notices.say(`What is heard comes ${(found / 48).toFixed(0)} ms late. Recordings are moved by that from now on.`)
  }

  /** Counts in, plays and records: at the playhead, or what is marked. */
  async function start(): Promise<void> {
    const document = project.document
    if (state.value !== 'ready' || !player || !input || !document || !track.value) return
    if (source.assetId) return notices.say('Go back to the reel first: it is the reel that plays while you record.')
    if (track.value.locked) return notices.warn(`${track.value.name} is locked. Unlock it to record there.`)
    const at = player.place()
    const range = desk.range && desk.range.to > desk.range.from ? desk.range : null
    const from = range?.from ?? at
    const lead = preferences.value.countIn * TICKS_PER_SECOND
    const playedFrom = Math.max(0, from - lead)
    facts.value = {
      id: crypto.randomUUID(),
      projectId: project.id,
      reelId: project.reelId,
      trackId: track.value.id,
      name: nextName(document, track.value.name),
      ...{ playedFrom, from, to: range?.to ?? null },
      delay: delay.value ?? input.saidDelay,
      begunAt: Date.now(),
    }
    part = null
    writer = openWriter(facts.value.id)
    seconds.value = 0
    state.value = 'counting'
    await recordings.begin(facts.value).catch(() => {})
    // Where there is no reel to run in with, the rest is counted in silence.
    const missing = lead - (from - playedFrom)
    countdown.value = Math.ceil(lead / TICKS_PER_SECOND)
    const wait = (left: number) => {
      if (state.value !== 'counting') return
      if (left <= 0) return void roll()
      countdown.value = Math.ceil((left + from - playedFrom) / TICKS_PER_SECOND)
      count = setTimeout(() => wait(left - TICKS_PER_SECOND / 10), 100)
    }
    wait(missing)
  }

  async function roll(): Promise<void> {
    const made = facts.value!
    const heard = project.document && withoutEarlier(project.document, made)
    if (heard) player!.tryOut(heard, { heard: true })
    await player!.runOn(made.playedFrom, preferences.value.heard)
    const ended = watch(player!.playing, (playing) => !playing && void stop(), { flush: 'sync' })
    const end = player!.onFrame((tick) => {
      if (tick < made.from) countdown.value = Math.ceil((made.from - tick) / TICKS_PER_SECOND)
      else state.value = 'recording'
      seconds.value = Math.max(0, tick - made.from) / TICKS_PER_SECOND
      // The last word takes its way too.
      if (made.to !== null && tick >= made.to + made.delay * TICKS_PER_SAMPLE + frameToTicks(6, { num: 30, den: 1 }))
        void stop()
    })
    follow = () => (ended(), end())
  }

  /** Ends the recording: what was said goes into the library and onto its track. */
  async function stop(): Promise<void> {
    const made = facts.value
    if (!made || (state.value !== 'recording' && state.value !== 'counting')) return
    follow?.()
    follow = null
    if (count) clearTimeout(count)
    const was = state.value
    // What was said last is still on its way through the browser.
    if (was === 'recording') await new Promise((resolve) => setTimeout(resolve, 100 + made.delay / 48))
    write()
    state.value = 'keeping'
    if (player!.playing.value) player!.pause()
    player!.tryOut(null)
    await writer?.settled()
    facts.value = writer = null
    if (was === 'counting') await recordings.remove(made.id)
    else await keep(made)
    player!.seek(made.from)
    if (state.value === 'keeping') state.value = input ? 'ready' : 'off'
  }

  /** Sends a recording to the library and puts it on its track once it is read in. */
  async function keep(made: RecordingFacts): Promise<void> {
    const samples = await recordings.samples(made.id)
    const needed = (made.from - made.playedFrom) / TICKS_PER_SAMPLE + made.delay
    if (samples.length <= needed + 480) {
      await recordings.remove(made.id)
      return notices.warn('Nothing was recorded.')
    }
    const id = crypto.randomUUID()
    try {
      await uploads.send(voiceFile(samples, made.name), made.projectId, id)
    } catch (error) {
      return notices.warn(
        `The recording could not be sent: ${(error as Error).message} It is kept in this browser and offered again ` +
          'when the project is opened.',
      )
    }
    await new Promise<void>((resolve) => {
      const done = watch(
        () => [project.document?.assets[id], project.pendingImports.find((entry) => entry.id === id)?.state] as const,
        ([asset, pending]) => {
          if (!asset && pending !== 'failed') return
          queueMicrotask(() => done())
          resolve()
        },
        { immediate: true },
      )
    })
    const document = project.document
    if (document?.assets[id] && document.tracks[made.trackId])
      project.perform(placed(document, made, id, samples.length))
    else notices.warn(`${made.name} is in the library; its track is no longer there.`)
    await recordings.remove(made.id)
  }

  /** Offers what an earlier page did not finish. */
  async function offerUnfinished(): Promise<void> {
    const left = await recordings.unfinished(project.id).catch(() => [])
    for (const made of left) {
      const samples = await recordings.samples(made.id)
      if (samples.length < SAMPLE_RATE / 4) {
        await recordings.remove(made.id)
        continue
      }
      unfinished.value = [...unfinished.value, { facts: made, seconds: samples.length / SAMPLE_RATE }]
    }
  }
  const unfinished = shallowRef<{ facts: RecordingFacts; seconds: number }[]>([])

  async function settle(made: RecordingFacts, wanted: boolean): Promise<void> {
    unfinished.value = unfinished.value.filter((entry) => entry.facts.id !== made.id)
    if (wanted) await keep(made)
    else await recordings.remove(made.id)
  }

  return {
    ...{ state, trackId, track, inputs, level, tooLoud, faint, countdown, seconds, measuring, facts, unfinished },
    ...{ preferences, delay, set, load, arm, disarm, choose, measureDelay, start, stop, offerUnfinished, settle },
  }
})
