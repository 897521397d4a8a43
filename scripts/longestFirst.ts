import { BaseSequencer, type TestSpecification } from 'vitest/node'

/** Files that take most of a minute, the longest first: each makes and reads films of its own. */
const LONG = [
  'media/test/formats',
  'renderer/test/proxyPieces',
  'renderer/test/sharedRender',
  'timeline/test/property',
  'renderer/test/streamCopy',
  'compositor/test/effects',
  'renderer/test/fitSize',
  'renderer/test/bucketRender',
  'renderer/test/renderReel',
  'renderer/test/faults',
  'media/test/glance',
  'renderer/test/deliveries',
  'renderer/test/speed',
  'media/test/transcodeSpan',
]

/**
 * Begins with the files that take longest, so that none of them is left to run alone at the end; then as ever. In a
 * fresh clone nothing is known of how long files took, and they would go by their size.
 */
export class LongestFirst extends BaseSequencer {
  override async sort(files: TestSpecification[]): Promise<TestSpecification[]> {
    const sorted = await super.sort(files)
    const rank = ({ moduleId }: TestSpecification) => {
      const at = LONG.findIndex((name) => moduleId.endsWith(`${name}.test.ts`))
      return at < 0 ? LONG.length : at
    }
    return sorted.sort((a, b) => rank(a) - rank(b))
  }
}
