import { computed, inject, onScopeDispose, watch, type InjectionKey, type Ref } from 'vue'
import { snapToFrame, TICKS_PER_SECOND } from '@dusk/timeline'
import type { Player } from './player'
import { useProject } from '~/features/project/projectStore'
import { useSource } from './sourceStore'

export const PLAYER: InjectionKey<Player> = Symbol('player')

/** The desk's player. */
export function usePlayer(): Player {
  const player = inject(PLAYER)
  if (!player) throw new Error('There is no desk around this component.')
  return player
}

/** The reel's playhead. While a source is open in the viewer the reel's waits where it was. */
export function usePlayhead() {
  const player = usePlayer()
  const source = useSource()
  const project = useProject()
  /** For what is written about it; while it plays it lags a little. */
  const tick = computed(() => (source.assetId ? source.parked : player.tick.value))
  /** Where it is at this moment: for what is done there. */
  const now = (): number => (source.assetId ? source.parked : player.place())

  /** Goes to a place of the reel; an open source is closed for it. */
  function goTo(to: number): void {
    if (!source.assetId) return player.seek(to)
    const rate = project.reel?.format.rate
    source.parked = rate ? Math.max(0, snapToFrame(to, rate)) : to
    source.close(player.place())
  }

  /** Goes to a place that is being looked for: a little of it is heard. */
  function scrub(to: number): void {
    if (source.assetId) goTo(to)
    else player.scrub(to)
  }

  return { tick, now, goTo, scrub }
}

/** How long an element is sent on its way at a time, in milliseconds. */
const STRETCH = 4000
/**
 * Most places a second it is seen at. Without a GPU each has all between it and the viewer drawn anew, which on small
 * machines takes from the picture.
 */
const PLACES = navigator.hardwareConcurrency < 4 ? 15 : 60

/**
 * Moves an element sideways with what plays. The browser's compositor does it: an element that the page moves in each
 * frame has the whole page made up anew each time. It is sent on anew once it is off by what can be seen, as after a
 * zoom, a jump, or when the sound's clock and the page's have gone apart.
 */
export function useFollowPlay(element: Ref<HTMLElement | null>, toX: (tick: number) => number): void {
  const player = usePlayer()
  let sent: Animation | null = null
  let from = { x: 0, perMillisecond: 0 }

  function follow(tick: number): void {
    const x = toX(tick)
    const perMillisecond = (toX(tick + TICKS_PER_SECOND * player.speed.value) - x) / 1000
    const elapsed = Number(sent?.currentTime ?? STRETCH)
    const off = Math.abs(from.x + from.perMillisecond * elapsed - x)
    const same = Math.abs(perMillisecond - from.perMillisecond) < 1e-6
    if (
      !element.value ||
      (sent && same && elapsed < STRETCH * 0.9 && off <= Math.max(1.5, Math.abs(perMillisecond) * 40))
    )
      return
    sent?.cancel()
    from = { x, perMillisecond }
    const places = [x, x + perMillisecond * STRETCH].map((place) => ({ transform: `translateX(${place}px)` }))
    const pixels = Math.abs(perMillisecond) * STRETCH * devicePixelRatio
    const steps = Math.max(1, Math.round(Math.min(pixels, (PLACES * STRETCH) / 1000)))
    sent = element.value.animate(places, { duration: STRETCH, fill: 'forwards', easing: `steps(${steps})` })
  }
  function halt(): void {
    sent?.cancel()
    sent = null
  }
  const end = player.onFrame(follow)
  watch(player.playing, (playing) => !playing && halt(), { flush: 'sync' })
  onScopeDispose(() => (end(), halt()))
}
