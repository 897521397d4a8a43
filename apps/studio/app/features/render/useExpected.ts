import { computed, ref, type Ref } from 'vue'
import { deliveryOf } from '@dusk/interchange'
import { api } from '~/features/ui/api'
import { formatBytes, formatWait } from '~/features/ui/sizes'
import { estimateBytes, type FileShape } from './renderChoice'
import { estimateSeconds, type TimedRender } from './renderTime'
import { useEstimate, type EstimatedRender } from './useEstimate'

interface MadeRender {
  reelId: string
  settings: Omit<FileShape, 'seconds'>
  report: { bytes: number; seconds: number; took: number; chunks: number; reused: number } | null
}

/** Standard error of a size above which it is told as from and to, and one above which it tells nothing. */
const VAGUE = 0.15
const UNKNOWN = 0.6

/**
 * How large files become and how long they take: found by making some of their parts where that can be, else judged by
 * what was made before on this machine.
 * @param wanted what they are to hold, all of them together
 * @param asked one of them that stands for all, and how much of all of them it is, to 1
 * @param reelId the reel they are made of
 */
export function useExpected(
  wanted: Ref<FileShape>,
  asked: Ref<(EstimatedRender & { part: number }) | null>,
  reelId: () => string,
) {
  const { found, looking, message } = useEstimate(asked)
  /** What was found, for all of them. A single part tells how long others take, but not how large they are. */
  const measured = computed(() => {
    const part = asked.value?.part
    if (!found.value || !part) return null
    const { bytes, seconds: took, spread, made } = found.value
    return { bytes: spread < UNKNOWN ? bytes / part : null, seconds: took / part, spread, made }
  })
  /** Renders of this machine that were finished: what the time of the next one is judged by. */
  const timed = ref<TimedRender[]>([])
  /** Files that were made of this reel: what the next one’s size is judged by. */
  const made = ref<(FileShape & { bytes: number })[]>([])

  async function load(): Promise<void> {
    made.value = []
    timed.value = []
    const { renders } = await api<{ renders: MadeRender[] }>('/renders').catch(() => ({ renders: [] }))
    timed.value = renders.flatMap(({ reelId: of, settings: shape, report }) =>
      report ? [{ ...shape, ...report, reelId: of }] : [],
    )
    made.value = renders.flatMap(({ reelId: of, settings: shape, report }) =>
      of === reelId() && report ? [{ ...shape, ...report }] : [],
    )
  }

  const seconds = computed(() =>
    measured.value
      ? { seconds: measured.value.seconds, bySameReel: true }
      : estimateSeconds(wanted.value, reelId(), timed.value),
  )
  const time = computed(() => {
    if (measured.value) return `It takes ${formatWait(measured.value.seconds)}${byParts.value}.`
    if (message.value) return message.value
    if (looking.value && !seconds.value) return 'Some of its parts are made just now to see how long it takes.'
    if (!seconds.value) return 'How long it takes is known once one was made on this machine.'
    const judged = seconds.value.bySameReel ? '' : ', going by other reels'
    return `It takes ${formatWait(seconds.value.seconds)}${judged}, less where parts are there already.`
  })
  /** What has been looked at, where that is not all that will be. */
  const byParts = computed(() => {
    const { made, chunks } = found.value ?? { made: 0, chunks: 0 }
    return looking.value ? `, going by ${made} of ${chunks} parts so far` : ''
  })
  const lastMade = computed(
    () =>
      made.value.find(
        ({ format, streamCopy }) =>
          (format ?? 'mp4-h264') === wanted.value.format && Boolean(streamCopy) === Boolean(wanted.value.streamCopy),
      ) ?? null,
  )
  const estimated = computed((): [number, number] | null =>
    measured.value?.bytes ? [measured.value.bytes, measured.value.bytes] : estimateBytes(wanted.value, lastMade.value),
  )
  const bytes = computed(() => {
    if (measured.value?.bytes) {
      const { bytes: most, spread: off } = measured.value
      if (off <= VAGUE) return `about ${formatBytes(most)}`
      return `${formatBytes(most * (1 - off))} to ${formatBytes(most * (1 + off))}`
    }
    const { streamCopy, bitrate, format } = wanted.value
    if (!estimated.value) return `as large as ${streamCopy ? 'its originals make' : 'what is seen makes'} it`
    const [least, most] = estimated.value
    if (least !== most) return `${formatBytes(least)} to ${formatBytes(most)}, by how much moves`
    const judged = lastMade.value && !bitrate && deliveryOf(format).picture ? ', going by the last one' : ''
    return `about ${formatBytes(most)}${judged}`
  })

  /** What is told of one of the files before it is made. @param part how much of all of them it is, to 1 */
  function expectedOf(part: number) {
    const found = estimated.value
    if (!found || found[0] !== found[1]) return undefined
    const told = { bytes: found[0] * part, seconds: seconds.value ? seconds.value.seconds * part : null }
    // Of several files only one was looked at.
    return part === 1 && measured.value ? { ...told, made: measured.value.made } : told
  }

  return { time, bytes, load, expectedOf }
}
