import { describe, expect, it } from 'vitest'
import { isClosed } from './closed'
import { quad } from './quad'
import { sphere } from './sphere'

describe('closed surfaces', () => {
  it(
    'a sphere with a seam and poles closes; without a triangle, or turned in part, it does not; nor does a ' +
      'sheet',
    () => {
      const s = sphere('s', 1, 12, 24)
      expect(isClosed(s)).toBe(true)
      expect(isClosed({ ...s, index: s.index.slice(3) })).toBe(false)
      const turned = s.index.slice()
      ;[turned[60], turned[61]] = [turned[61]!, turned[60]!]
      expect(isClosed({ ...s, index: turned })).toBe(false)
      expect(isClosed(quad('q', [0, 0, 0, 1, 0, 0, 1, 1, 0, 0, 1, 0]))).toBe(false)
    },
  )
})
