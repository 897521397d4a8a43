import { FilterRow, responseAt, rowOf, type Biquad } from '../dsp/biquad'
import { kept, type Settings, type SoundEffectKind } from './define'

/**
 * An effect that is nothing but filters one after the other.
 * @param most filters in the row
 * @param filters worked out from settings; each keeps its place in the row whatever the settings are
 */
export function filterRow(
  most: number,
  filters: (settings: Settings) => Biquad[],
): Required<Pick<SoundEffectKind, 'create' | 'response'>> {
  return {
    create() {
      const coefficients = kept((settings) => rowOf(filters(settings)))
      const row = new FilterRow(most)
      return { process: (left, right, settings) => row.run(coefficients(settings), left, right) }
    },
    response(settings) {
      const all = filters(settings)
      return (at) => all.reduce((sum, filter) => sum + responseAt(filter, at), 0)
    },
  }
}
