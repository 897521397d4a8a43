import { defineStore } from 'pinia'
import { computed, ref, watch } from 'vue'
import { useProject } from '~/features/project/projectStore'

/** How far a source was when it was first seen to be worked on, and now; times in milliseconds. */
interface Run {
  from: number
  since: number
  progress: number
  at: number
}

/** Before this much was done, or this long watched, nothing is foretold. */
const LEAST_PART = 0.02
const LEAST_MS = 1500

/** Milliseconds that a run still takes, by what it did since it was first seen; `null` while that says too little. */
export function timeLeft({ from, since, progress, at }: Run): number | null {
  const done = progress - from
  const took = at - since
  return done < LEAST_PART || took < LEAST_MS ? null : ((1 - progress) / done) * took
}

/** A time that is left, rounded as nobody can know it better: `8 s`, `40 s`, `3 min`. */
export function leftWords(ms: number): string {
  const seconds = ms / 1000
  if (seconds < 10) return `${Math.max(1, Math.ceil(seconds))} s`
  return seconds < 90 ? `${Math.ceil(seconds / 10) * 10} s` : `${Math.ceil(seconds / 60)} min`
}

/** How far the preview files of sources are, and how long they still take. */
export const usePreviewProgress = defineStore('previewProgress', () => {
  const project = useProject()
  const runs = ref(new Map<string, Run>())

  watch(
    () => project.sources,
    (sources) => {
      const next = new Map<string, Run>()
      for (const [id, { state, progress }] of Object.entries(sources)) {
        if (state !== 'working') continue
        const now = performance.now()
        const run = runs.value.get(id)
        // One that was begun again counts from there.
        next.set(
          id,
          run && run.progress <= progress
            ? { ...run, progress, at: run.progress === progress ? run.at : now }
            : { from: progress, since: now, progress, at: now },
        )
      }
      runs.value = next
    },
    { immediate: true },
  )

  /** How far one is: `preview waits`, `preview 34 %, 20 s left`. */
  function wordsOf(assetId: string): string {
    const state = project.sources[assetId]
    if (state?.state === 'failed') return 'no preview could be made'
    // The first sentence says what for.
    if (state?.message)
      return `preview waits: ${state.message[0]!.toLowerCase()}${state.message.slice(1).split('.')[0]}`
    if (!state || state.state === 'waiting') return 'preview waits'
    const run = runs.value.get(assetId)
    const left = run && timeLeft(run)
    return `preview ${Math.floor(state.progress * 100)} %${left ? `, ${leftWords(left)} left` : ''}`
  }

  /** Words for each source whose preview files are not all there. */
  const unready = computed(() => {
    const waiting = Object.entries(project.sources).filter(
      ([, { state }]) => state === 'working' || state === 'waiting',
    )
    return new Map(waiting.map(([id]) => [id, wordsOf(id)]))
  })

  return { wordsOf, unready }
})
