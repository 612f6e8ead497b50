import { describe, expect, it } from 'vitest'
import { shrink } from './shrink'

describe('a picture made smaller', () => {
  it('holds the means of what fell together', () =>
    expect(shrink([0, 0, 0, 2, 4, 6, 1, 1, 1, 3, 3, 3], 4, 1, 2)).toEqual({
      width: 2,
      height: 1,
      rgb: Float32Array.from([1, 2, 3, 2, 2, 2]),
    }))
  it('keeps the sum of light where sizes divide', () => {
    const rgb = Array.from({ length: 12 * 8 * 3 }, (_, i) => (i * 37) % 11)
    const s = shrink(rgb, 12, 8, 3)
    const sum = (a: ArrayLike<number>) => Array.from(a).reduce((x, y) => x + y, 0)
    expect([s.width, s.height]).toEqual([3, 2])
    expect(sum(s.rgb) * 16).toBeCloseTo(sum(rgb), 3)
  })
  it('that is small already stays as it is', () =>
    expect(Array.from(shrink([1, 2, 3], 1, 1, 240).rgb)).toEqual([1, 2, 3]))
})
