import { planFrame, type FramePlan, type Project } from '@dusk/timeline'
import { smallSize } from '~/features/gallery/smallSize'
import { usePlayer, usePlayhead } from '~/features/player/usePlayhead'
import { useProject } from '~/features/project/projectStore'

/** Longest side of the pictures that colours are told from, in pixels. */
const LONGEST = 480

/** Pixels of what the reel shows, for telling colours: with all effects, or with some left out. */
export function useSampling() {
  const project = useProject()
  const player = usePlayer()
  const playhead = usePlayhead()

  /**
   * The reel's picture at a moment, small.
   * @param without ids of effects that are left out
   * @param only the one track that is seen
   */
  function planAt(tick: number, without: readonly string[] = [], only?: string): FramePlan | null {
    const { document, reel } = project
    if (!document || !reel) return null
    const size = smallSize(reel.format, Math.min(LONGEST, Math.max(reel.format.width, reel.format.height)))
    const effects = Object.fromEntries(Object.entries(document.effects).filter(([id]) => !without.includes(id)))
    const tracks = only
      ? Object.fromEntries(
          Object.entries(document.tracks).map(([id, track]) => [id, { ...track, hidden: id !== only }]),
        )
      : document.tracks
    const shown: Project = { ...document, effects, tracks }
    return planFrame(shown, project.reelId, tick, size)
  }

  /** Its pixels, straight RGBA; `null` while its sources are not there. */
  async function pixelsAt(tick: number, without: readonly string[] = [], only?: string): Promise<ImageData | null> {
    const plan = planAt(tick, without, only)
    const picture = plan && (await player.thumbnail({ ...plan, passThrough: false }))
    if (!picture) return null
    const sheet = new OffscreenCanvas(picture.width, picture.height)
    const context = sheet.getContext('2d')!
    context.drawImage(picture, 0, 0)
    return context.getImageData(0, 0, picture.width, picture.height)
  }

  /** The mean colour about a place. @param at parts of the picture, 0 to 1 */
  async function colourAt(at: { x: number; y: number }, without: readonly string[] = []): Promise<string | null> {
    const image = await pixelsAt(playhead.now(), without)
    if (!image) return null
    const [cx, cy] = [Math.floor(at.x * image.width), Math.floor(at.y * image.height)]
    const sum = [0, 0, 0]
    let count = 0
    for (let y = cy - 2; y <= cy + 2; y++)
      for (let x = cx - 2; x <= cx + 2; x++) {
        if (x < 0 || y < 0 || x >= image.width || y >= image.height) continue
        for (let c = 0; c < 3; c++) sum[c]! += image.data[(y * image.width + x) * 4 + c]!
        count++
      }
    return `#${sum
      .map((value) =>
        Math.round(value / count)
          .toString(16)
          .padStart(2, '0'),
      )
      .join('')}`
  }
  return { planAt, pixelsAt, colourAt }
}
