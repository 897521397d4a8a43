import { describe, expect, it } from 'vitest'
import { clipLook, type Params } from '@dusk/timeline'
import { covers, sizeToCover } from '~/features/viewer/covering'

const HD = { width: 1920, height: 1080 }
const look = (params: Params) => clipLook(params, 0)

describe('levelling a picture', () => {
  it('knows whether the frame is covered', () => {
    expect(covers(look({}), 'fit', HD, HD)).toBe(true)
    expect(covers(look({ size: 99 }), 'fit', HD, HD)).toBe(false)
    expect(covers(look({ position: [20, 0] }), 'fit', HD, HD)).toBe(false)
    expect(covers(look({ rotation: 5 }), 'fit', HD, HD)).toBe(false)
  })

  it.each([
    ['turned a little', { rotation: 3 }],
    ['upside down', { rotation: 184 }],
    ['moved', { rotation: -2, position: [60, -20], size: 107 }],
    ['of another shape', { rotation: 2, size: 134 }],
  ])('grows one that is %s until no corner shows, and no further', (_what, params) => {
    const picture = _what === 'of another shape' ? { width: 800, height: 600 } : HD
    const turned = look(params as unknown as Params)
    const size = sizeToCover(turned, 'fit', picture, HD)
    expect(size).toBeGreaterThan(turned.size)
    expect(covers({ ...turned, size }, 'fit', picture, HD)).toBe(true)
    expect(covers({ ...turned, size: size - 0.3 }, 'fit', picture, HD)).toBe(false)
  })

  it('leaves one that is large enough as it is', () => {
    expect(sizeToCover(look({ rotation: 2, size: 150 }), 'fit', HD, HD)).toBe(150)
  })
})
