import { defineStore } from 'pinia'
import { computed, ref, shallowRef } from 'vue'
import { sourceReel } from './sourceProject'
import { useProject } from '~/features/project/projectStore'

/** What of a source is to be used. */
export type SourceParts = 'both' | 'picture' | 'sound'

/** The source that is open in the viewer, with its marks. `null` id: the viewer shows the reel. */
export const useSource = defineStore('source', () => {
  const project = useProject()
  const assetId = ref<string | null>(null)
  /** Source time in ticks; `null` where nothing is marked. */
  const from = ref<number | null>(null)
  const to = ref<number | null>(null)
  const parts = ref<SourceParts>('both')
  /** Where the reel stood when the source was opened, in ticks. */
  const parked = ref(0)
  /** Marks and place of sources looked at before. */
  const known = new Map<string, { from: number | null; to: number | null; tick: number }>()
  const startAt = shallowRef(0)

  const asset = computed(() => (assetId.value ? (project.document?.assets[assetId.value] ?? null) : null))
  const reel = computed(() => (asset.value ? sourceReel(asset.value) : null))
  /** The marked part, whole without marks. Ticks of source time. */
  const range = computed(() => ({ from: from.value ?? 0, to: to.value ?? reel.value?.length ?? 0 }))
  const subclips = computed(() =>
    Object.values(project.document?.subclips ?? {})
      .filter((pick) => pick.assetId === assetId.value)
      .sort((a, b) => (a.order < b.order ? -1 : 1)),
  )

  function remember(tick: number): void {
    if (assetId.value) known.set(assetId.value, { from: from.value, to: to.value, tick })
  }

  /** Opens a source. `reelTick`: where the reel stands; `sourceTick`: where the source that was open stood. */
  function open(id: string, reelTick: number, sourceTick: number): void {
    if (assetId.value === id) return
    if (assetId.value) remember(sourceTick)
    else parked.value = reelTick
    const before = known.get(id)
    from.value = before?.from ?? null
    to.value = before?.to ?? null
    startAt.value = before?.tick ?? 0
    parts.value = 'both'
    assetId.value = id
  }

  function close(sourceTick: number): void {
    remember(sourceTick)
    assetId.value = null
  }

  /** Sets a mark; one that would make the part empty takes the other mark away. */
  function mark(edge: 'in' | 'out', tick: number | null): void {
    const whole = reel.value?.length ?? 0
    const at = tick === null ? null : Math.min(Math.max(tick, 0), whole)
    if (edge === 'in') {
      from.value = at
      if (at !== null && to.value !== null && to.value <= at) to.value = null
    } else {
      to.value = at
      if (at !== null && from.value !== null && from.value >= at) from.value = null
    }
  }

  return { assetId, asset, reel, from, to, range, parts, parked, startAt, subclips, open, close, mark }
})
