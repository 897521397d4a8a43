import { beyondCodec, canCopy, canFit, deliveryOf, HARDWARE_ENCODERS } from '@dusk/interchange'
import { RangeRefused, renderRange, type RenderSettings } from '@dusk/store'
import type { Project } from '@dusk/timeline'
import { Problem } from './problem'

/** A refusal that names the field at fault. */
const fieldProblem = (path: string, message: string) =>
  new Problem(422, 'Invalid request', message, [{ path, message }])

/**
 * Holds what is asked of a render against each other and against the reel.
 * @returns the range that is rendered, on the reel's frames
 * @throws {Problem} naming the field at fault
 */
export function checkedRange(project: Project, reelId: string, settings: RenderSettings): RenderSettings['range'] {
  if (settings.maxBytes && !canFit(deliveryOf(settings.format)))
    throw fieldProblem('settings.maxBytes', 'Films in H.264, H.265 and VP9 can be made to fit into a size, others not.')
  if (settings.maxBytes && settings.alpha)
    throw fieldProblem('settings.alpha', 'What is to fit into a size can’t be seen through.')
  if (settings.streamCopy && !canCopy(deliveryOf(settings.format)))
    throw fieldProblem('settings.streamCopy', 'Films in H.264 can take over shots as they are coded, others not.')
  if (settings.streamCopy && (settings.maxBytes || settings.bitrate))
    throw fieldProblem(
      'settings.streamCopy',
      'What keeps to a number of bits can’t take over shots as they are coded. Choose a quality instead.',
    )
  const { hardware } = settings
  if (hardware && HARDWARE_ENCODERS[hardware].picture !== deliveryOf(settings.format).picture)
    throw fieldProblem('settings.hardware', 'This encoder makes other pictures than the file is to hold.')
  if (hardware && settings.speed && settings.speed !== 'even')
    throw fieldProblem('settings.speed', 'A graphics chip has a speed of its own.')
  if (hardware && (settings.maxBytes || settings.streamCopy || settings.alpha))
    throw fieldProblem(
      'settings.hardware',
      'What fits into a size, takes shots over or can be seen through is encoded by the processors.',
    )
  const beyond = beyondCodec(deliveryOf(settings.format), settings)
  if (beyond) throw fieldProblem(beyond.field === 'rate' ? 'settings.rate' : 'settings.width', beyond.words)
  try {
    return renderRange(project, reelId, settings.range)
  } catch (error) {
    if (!(error instanceof RangeRefused)) throw error
    throw fieldProblem('settings.range', error.message)
  }
}
