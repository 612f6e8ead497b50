import { expect, it } from 'vitest'
import { CIRCLE, onCircle } from './circle'

it('gives the cosine and sine that the language gives, quarters and ends included', () => {
  for (let i = 0; i <= 4096; i++)
    for (const u of [i / 4096, Math.min(1, (i + 0.37) / 4096)]) {
      onCircle(u)
      expect(Math.abs(CIRCLE[0]! - Math.cos(2 * Math.PI * u))).toBeLessThan(1e-15)
      expect(Math.abs(CIRCLE[1]! - Math.sin(2 * Math.PI * u))).toBeLessThan(1e-15)
    }
})
