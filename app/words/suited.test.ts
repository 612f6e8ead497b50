import { expect, it } from 'vitest'
import { suitedLength, suitedSpan } from './suited'

it('a length begins at a share of the part, of one digit, and is not known without the part', () => {
  expect(suitedLength('radius', 0.08)).toBeCloseTo(0.002, 9)
  expect(suitedLength('subsurface_radius', 3)).toBeCloseTo(0.1, 9)
  expect(suitedLength('radius', undefined)).toBeUndefined()
  expect(suitedLength('thin_film_thickness', 1)).toBeUndefined()
})
it('levels lie about what a length is, or about what suits the part where it is nothing or beyond it', () => {
  expect(suitedSpan('radius', 0.004, 0.01, 0.08)).toEqual({ low: 0.002, high: 0.006 })
  expect(suitedSpan('subsurface_radius', 1, 0.01, 0.08)).toEqual({ low: 0.001, high: 0.003 })
  expect(suitedSpan('film_thickness', 0, 4e-7, 0.08)).toEqual({ low: 2e-7, high: 6e-7 })
})
