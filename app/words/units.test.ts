import { expect, it } from 'vitest'
import { readQuantity } from './units'

it.each([
  ['*1.2', 0.01, 0.012],
  ['× 2', 0.01, 0.02],
  ['/4', 0.01, 0.0025],
  ['+5 %', 0.02, 0.021],
  ['-50%', 0.02, 0.01],
  ['+ 0,5 %', 1, 1.005],
])('%s changes what the field holds', (text, held, value) => {
  expect(readQuantity(text, 'length', 'mm', held)).toBeCloseTo(value, 12)
})

it('a micrometre is written with either letter', () => {
  expect(readQuantity('40 μm', 'length', 'mm')).toBeCloseTo(4e-5, 15)
  expect(readQuantity('40 µm', 'length', 'mm')).toBeCloseTo(4e-5, 15)
})

it('a sign alone is a number, and a share keeps its percent', () => {
  expect(readQuantity('-5', 'plain', '', 2)).toBe(-5)
  expect(readQuantity('35 %', 'share', '')).toBeCloseTo(0.35, 12)
  expect(readQuantity('35 %', 'plain', '')).toBeCloseTo(0.35, 12)
})

it.each([
  ['soft', 'length', 'mm', 'is no number'],
  ['3 kg', 'length', 'mm', 'none of its units: nm, µm, mm, cm, m'],
  ['3 mm', 'plain', '', 'it has no unit'],
  ['/0', 'plain', '', 'divided by 0'],
  ['1e999', 'plain', '', 'too large'],
])('%s is refused in words', (text, quantity, shown, says) => {
  expect(readQuantity(text, quantity, shown, 1)).toContain(says)
})
