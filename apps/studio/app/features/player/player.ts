import {
  frameToTicks,
  planFrame,
  snapToFrame,
  TICKS_PER_SAMPLE,
  ticksToFrame,
  type FramePlan,
  type Project,
  type Rate,
} from '@dusk/timeline'
import kernelsUrl from '@dusk/compositor/kernels.wasm?url'
import sharedKernelsUrl from '@dusk/compositor/kernels.shared.wasm?url'
import type { Scopes } from '@dusk/compositor'
import { ref, shallowRef } from 'vue'
import { drawingThreads } from './drawingThreads'
import type { SoundInput } from './soundInput'
import { SoundOutput } from './soundOutput'
import { SoundTasks } from './soundTasks'
import { drawnSize, PictureDetail } from './pictureDetail'
import { PlayMeters } from './playMeters'
import { PreviewQuestions } from './previewQuestions'
import { ToldDocument } from './toldDocument'
import type {
  Looking,
  MixReply,
  MixRequest,
  PreviewReply,
  PreviewRequest,
  Sources,
  TitleLayoutReply,
  TitleLayoutRequest,
} from './messages'

/** Speeds that J and L step through. */
const SHUTTLE = [1, 2, 4, 8, 16]

/**
 * Milliseconds between changes of what is written about a place while it plays. Each changes words and values all over
 * the page, which took a whole processor at sixty a second; what has to move smoothly listens to
 * {@link Player.onFrame}.
 */
const WRITTEN_EVERY = 66

/** Plays a reel: one worker draws, one mixes, and the sound card's clock leads both. */
export class Player {
  readonly playing = ref(false)
  readonly speed = ref(1)
  /** Where it is, for what is written about it: while it plays it lags by up to {@link WRITTEN_EVERY}. */
  readonly tick = shallowRef(0)
  private readonly heardNow = new PlayMeters()
  readonly levels = this.heardNow.levels
  /** What passes through the mixer at the moment that is heard; `null` while nothing plays. */
  readonly meters = this.heardNow.reading
  /** Whether places that are only looked at are heard too. */
  readonly scrubHeard = ref(true)
  /** Counts how often a place was gone to, the same one too. */
  readonly sought = ref(0)
  readonly failure = ref<string | null>(null)
  /** How play went so far: pictures shown, passed over, shown more than a frame late, and times the sound ran dry. */
  readonly stats = shallowRef({ shown: 0, dropped: 0, late: 0, worstLag: 0, underruns: 0 })
  /** The last sought picture: where, how many milliseconds it took, and what a second thread drew of all so far. */
  readonly shown = shallowRef({ tick: -1, ms: 0, helped: 0 })

  /** Counts of the picture that is shown, while they are wanted. */
  readonly scopes = shallowRef<Scopes | null>(null)

  /** What is worked out from sound besides playing it. */
  readonly tasks = new SoundTasks((message) => this.toMix(message))

  private readonly sound = new SoundOutput()
  private preview: Worker | null = null
  private readonly mix: Worker
  private rate: Rate = { num: 30, den: 1 }
  private length = 0
  private behind = 0
  /** Neither the end nor a loop holds it up. */
  private runsOn = false
  private loop: { from: number; to: number } | null = null
  private started = { tick: 0, speed: 1 }
  private readonly timer: ReturnType<typeof setInterval>
  private written = 0
  private readonly listeners = new Set<(tick: number) => void>()
  private run = 0
  private readonly readiness = new Set<'filled' | 'primed'>()
  /** When a document was last given to be tried out, until its picture is there. */
  private triedAt = 0
  private readonly questions = new PreviewQuestions((message) => this.toPreview(message))
  private looking: Looking = { scopes: false, zebra: false, bareTo: null }
  /** The run of the last place that was listened to, and when. */
  private grain = -1
  private listened = 0
  private hush: ReturnType<typeof setTimeout> | null = null
  private triedSound = false
  private project: Project | null = null
  private readonly told = {
    preview: new ToldDocument((delta) => this.toPreview({ kind: 'document', delta, reelId: this.reelId })),
    mix: new ToldDocument((delta) => this.toMix({ kind: 'document', delta, reelId: this.reelId })),
  }
  private reelId = ''
  private sources: Sources = {}
  private size = { width: 960, height: 540 }
  private readonly detail = new PictureDetail((tick, size) => this.toPreview({ kind: 'sharpen', tick, ...size }))

  constructor() {
    this.mix = new Worker(new URL('./mix.worker.ts', import.meta.url), { type: 'module' })
    this.mix.onmessage = ({ data }: MessageEvent<MixReply>) => {
      switch (data.kind) {
        case 'failed':
          this.failure.value = data.message
          return
        case 'filled':
          if (data.run === this.grain) this.sound.roll()
          else this.rollWhenReady(data.run, 'filled')
          return
        case 'meters':
          if (data.meters.run === this.run) this.heardNow.take(data.meters)
          return
        default:
          this.tasks.hear(data)
      }
    }
    this.toMix({ kind: 'start', ring: this.sound.memory })
    this.timer = setInterval(() => this.follow(), 16)
  }

  /** Draws on a canvas from now on. */
  attach(canvas: HTMLCanvasElement): void {
    this.preview?.terminate()
    const worker = new Worker(new URL('./preview.worker.ts', import.meta.url), { type: 'module' })
    this.preview = worker
    this.told.preview.forget()
    worker.onmessage = ({ data }: MessageEvent<PreviewReply>) => this.hear(data)
    worker.onerror = (event) => (this.failure.value = event.message || 'The viewer stopped. Reload the page.')
    const offscreen = canvas.transferControlToOffscreen()
    worker.postMessage(
      {
        kind: 'start',
        canvas: offscreen,
        kernels: { alone: kernelsUrl, shared: sharedKernelsUrl },
        threads: drawingThreads(),
        ring: this.sound.memory,
      } satisfies PreviewRequest,
      [offscreen],
    )
  }

  private hear(data: PreviewReply): void {
    switch (data.kind) {
      case 'ready':
        this.toPreview({ kind: 'sources', sources: this.sources })
        this.toPreview({ kind: 'size', ...this.size })
        this.toPreview({ kind: 'looking', ...this.looking })
        if (this.project) this.told.preview.tell(this.project)
        this.show()
        return
      case 'primed':
        this.rollWhenReady(data.run, 'primed')
        return
      case 'shown':
        this.shown.value = { tick: data.tick, ms: data.ms, helped: data.helped }
        if (!this.playing.value) this.detail.drawn(data.tick)
        if (this.triedAt) {
          performance.mark('tried out shown', { detail: performance.now() - this.triedAt })
          this.triedAt = 0
        }
        return
      case 'stats':
        this.stats.value = {
          shown: data.shown,
          dropped: data.dropped,
          late: data.late,
          worstLag: data.worstLag,
          underruns: this.sound.underruns,
        }
        return
      case 'scopes':
        this.scopes.value = data.scopes
        return
      case 'failed':
        this.failure.value = data.message
        return
      default:
        this.questions.hear(data)
    }
  }

  /** @param behind how far beyond its end the playhead may go, in ticks */
  setDocument(project: Project, reelId: string, length: number, behind = 0): void {
    this.project = project
    this.reelId = reelId
    this.rate = project.reels[reelId]!.format.rate
    this.length = length
    this.behind = behind
    const same = this.told.mix.like(this.told.preview)
    const delta = this.told.mix.tell(project)
    if (this.preview) this.told.preview.tell(project, same ? delta : undefined)
    if (!this.playing.value) this.show()
  }

  setSources(sources: Sources): void {
    this.sources = sources
    this.toPreview({ kind: 'sources', sources })
    this.toMix({ kind: 'sources', sources })
    if (!this.playing.value) this.show()
  }

  /**
   * Shape of the reel. It is drawn at the size of the proxies, whatever room the viewer has: pictures that fill the
   * frame are then copied, not resampled, and the page scales the canvas for nothing.
   */
  setShape(shape: { width: number; height: number }): void {
    const size = drawnSize(shape)
    if (size.width === this.size.width && size.height === this.size.height) return
    this.size = size
    this.toPreview({ kind: 'size', ...size })
    if (!this.playing.value) this.show()
  }

  /**
   * A picture that stands is drawn from originals at the size it is looked at in, where that is larger than the
   * previews.
   * @param scale screen pixels per reel pixel; 0 leaves it as it is
   */
  setDetail(shape: { width: number; height: number }, scale: number): void {
    this.detail.set(shape, scale)
    if (!this.playing.value) this.show()
  }

  /** Shows where another window is: one place of a run of them while that plays. */
  trail(tick: number, running: boolean): void {
    this.tick.value = Math.max(0, tick)
    if (running) this.toPreview({ kind: 'show', tick: this.tick.value, running })
    else this.show()
  }

  setLoop(range: { from: number; to: number } | null): void {
    this.loop = range
  }

  /** Where it is at this moment, in ticks: what is heard, while it plays. */
  place(): number {
    if (!this.playing.value) return this.tick.value
    return this.runsOn ? this.heard() : Math.min(this.heard(), this.length)
  }

  /** Calls back with the place about sixty times a second while it plays. @returns a function that ends it */
  onFrame(listener: (tick: number) => void): () => void {
    this.listeners.add(listener)
    return () => void this.listeners.delete(listener)
  }

  /** Goes to a place, beyond the end too: what is put in there leaves a gap. While it plays, play goes on there. */
  seek(tick: number): void {
    this.sought.value++
    const speed = this.playing.value ? this.speed.value : 0
    const most = Number.isFinite(tick) && this.length > 0 ? this.length + this.behind : this.length
    this.tick.value = Math.max(0, snapToFrame(Math.min(tick, most), this.rate))
    if (speed) this.begin(speed)
    else this.show()
  }

  /** Goes to a place that is being looked for: a little of it is heard. */
  scrub(tick: number): void {
    this.seek(tick)
    const now = performance.now()
    if (!this.scrubHeard.value || this.playing.value || now - this.listened < 50) return
    this.listened = now
    const at = this.tick.value
    void this.sound.wake().then(() => {
      if (this.playing.value || this.listened !== now) return
      this.sound.halt()
      this.sound.rewind()
      this.grain = ++this.run
      this.toMix({ kind: 'grain', at, run: this.grain })
      if (this.hush) clearTimeout(this.hush)
      this.hush = setTimeout(() => !this.playing.value && this.sound.halt(), 400)
    })
  }

  /** Opens a microphone that runs on the same clock as what is played. @throws {Error} in words */
  openInput(deviceId: string | null): Promise<SoundInput> {
    return this.sound.input(deviceId)
  }

  /**
   * Plays on and on from a place, beyond the end of the reel too, as while something is recorded.
   * @param heard whether it is listened to, or runs in silence
   */
  async runOn(from: number, heard: boolean): Promise<void> {
    await this.sound.wake()
    this.sound.muted = !heard
    this.runsOn = true
    this.tick.value = Math.max(0, snapToFrame(from, this.rate))
    this.begin(1)
  }

  /** Says whose spectrum is wanted while it plays: a track's, the reel's, nobody's. */
  watchSpectrum(id: string | null): void {
    this.toMix({ kind: 'watch', id })
  }

  /** Shows a place without going there, as while an edge is dragged. */
  peek(tick: number): void {
    if (!this.playing.value) this.toPreview({ kind: 'show', tick: Math.max(0, tick) })
  }

  /**
   * Shows frames of a document side by side, such as the last and the first around a cut, until the next place is
   * shown. They are drawn by the same code as everything else, each at its share of the viewer.
   */
  splitView(project: Project, reelId: string, ticks: readonly number[]): void {
    if (this.playing.value) return
    const even = (value: number) => Math.max(16, Math.round(value / 2) * 2)
    const share = { width: even(this.size.width / ticks.length) - 2, height: even(this.size.height / ticks.length) }
    const plans = ticks.map((tick) => planFrame(project, reelId, Math.max(0, tick), share))
    this.toPreview({ kind: 'splitView', plans })
  }

  /** Shows again what the playhead is on. */
  refresh(): void {
    if (!this.playing.value) this.show()
  }

  /** Moves by frames. */
  step(frames: number): void {
    this.pause()
    this.scrub(frameToTicks(ticksToFrame(this.tick.value, this.rate) + frames, this.rate))
  }

  toggle(): void {
    if (this.playing.value) this.pause()
    else void this.play()
  }

  async play(speed = 1): Promise<void> {
    if (this.length === 0) return
    this.tick.value = this.place()
    if (speed > 0 && this.tick.value >= this.length - frameToTicks(1, this.rate)) this.tick.value = this.loop?.from ?? 0
    await this.sound.wake()
    this.begin(speed)
  }

  /** J and L: each press in the same direction doubles the speed. */
  shuttle(direction: 1 | -1): void {
    const now = this.playing.value ? this.speed.value : 0
    const step =
      Math.sign(now) === direction ? SHUTTLE[Math.min(SHUTTLE.indexOf(Math.abs(now)) + 1, SHUTTLE.length - 1)]! : 1
    void this.play(step * direction)
  }

  pause(): void {
    if (!this.playing.value) return
    const now = this.place()
    this.playing.value = false
    this.runsOn = false
    this.sound.muted = false
    this.heardNow.rest()
    this.sound.halt()
    this.toMix({ kind: 'pause' })
    this.toPreview({ kind: 'pause' })
    this.tick.value = snapToFrame(now, this.rate)
    this.show()
  }

  /** Says what is wanted beside the picture. */
  look(change: Partial<Looking>): void {
    this.looking = { ...this.looking, ...change }
    this.toPreview({ kind: 'looking', ...this.looking })
    if (!this.looking.scopes) this.scopes.value = null
    if (!this.playing.value) this.show()
  }

  private scopeWatchers = 0
  /** Counts of the picture are wanted from now on. @returns ends that */
  watchScopes(): () => void {
    if (++this.scopeWatchers === 1) this.look({ scopes: true })
    let ended = false
    return () => {
      if (ended) return
      ended = true
      if (--this.scopeWatchers === 0) this.look({ scopes: false })
    }
  }

  /** A frame at full size, from the original files. @throws {Error} in words when that is not possible */
  captureFrame(tick: number, width: number, height: number): Promise<Blob> {
    return this.questions.captureFrame(tick, width, height)
  }

  /** Where a title's letters are, in reel pixels. @throws {Error} when its fonts can't be read */
  titleLayout(ask: TitleLayoutRequest): Promise<TitleLayoutReply> {
    return this.questions.titleLayout(ask)
  }

  /**
   * Shows a document that is only tried out, as while something is dragged on the picture; with `heard` it is listened
   * to as well. `null` ends that.
   */
  tryOut(project: Project | null, { heard = false } = {}): void {
    const shown = project ?? this.project
    if (shown && (heard || this.triedSound)) {
      this.triedSound = heard && project !== null
      this.told.mix.tell(shown)
    }
    if (project) this.triedAt = performance.now()
    if (shown && this.preview) this.told.preview.tell(shown)
    if (!this.playing.value) this.show()
  }

  /** A frame drawn from its plan, for galleries; `null` while it plays or its pictures are not there yet. */
  thumbnail(plan: FramePlan): Promise<ImageBitmap | null> {
    return this.playing.value ? Promise.resolve(null) : this.questions.thumbnail(plan)
  }

  dispose(): void {
    this.detail.rest()
    clearInterval(this.timer)
    this.preview?.terminate()
    this.mix.terminate()
    this.sound.dispose()
    this.questions.refuse(new Error('The desk was closed.'))
  }

  private begin(speed: number): void {
    this.failure.value = null
    this.sound.halt()
    this.toMix({ kind: 'pause' })
    this.sound.rewind()
    this.started = { tick: this.tick.value, speed }
    this.speed.value = speed
    this.playing.value = true
    const run = ++this.run
    this.heardNow.restart()
    this.readiness.clear()
    this.toMix({ kind: 'play', start: this.tick.value, speed, run })
    this.toPreview({ kind: 'play', start: this.tick.value, speed, latency: this.sound.latency(), run })
  }

  /** Sound starts once there is some and its first picture is drawn. */
  private rollWhenReady(run: number, part: 'filled' | 'primed'): void {
    if (run !== this.run || !this.playing.value) return
    this.readiness.add(part)
    if (this.readiness.size === 2) this.sound.roll()
  }

  private heard(): number {
    return Math.max(0, this.started.tick + Math.round(this.sound.heard() * TICKS_PER_SAMPLE * this.started.speed))
  }

  /** Looks where play is; not in animation frames, each of which would have the page made up anew. */
  private follow(): void {
    const time = performance.now()
    const due = time - this.written >= WRITTEN_EVERY
    if (due) this.written = time
    if (due) this.heardNow.followLevels(this.sound.peaks())
    if (!this.playing.value) return
    if (due) this.heardNow.follow(this.sound.heard())
    const now = this.heard()
    const { speed } = this.started
    if (this.loop && !this.runsOn && speed > 0 && now >= this.loop.to) {
      this.tick.value = this.loop.from
      this.begin(speed)
    } else if (!this.runsOn && speed > 0 && now >= this.length) {
      this.pause()
      this.tick.value = this.length
    } else if (speed < 0 && now <= 0) {
      this.pause()
      this.tick.value = 0
    } else {
      if (due) this.tick.value = now
      for (const listener of this.listeners) listener(now)
    }
  }

  private show(): void {
    // At the very end the last frame is shown, beyond it there is none.
    const { value } = this.tick
    const tick = value === this.length ? Math.max(0, value - 1) : value
    this.toPreview({ kind: 'show', tick })
    this.detail.rest()
  }

  private toPreview(message: PreviewRequest): void {
    this.preview?.postMessage(message)
  }

  private toMix(message: MixRequest): void {
    this.mix.postMessage(message)
  }
}
