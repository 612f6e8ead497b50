import { expect, it } from 'vitest'
import { stepped } from './step'

const UNIT = { low: 0, high: 1 }
it('steps by a hundredth of the range, ten times finer with Shift', () => {
  expect(stepped(0.5, true, false, UNIT)).toBeCloseTo(0.51, 12)
  expect(stepped(0.5, false, false, UNIT)).toBeCloseTo(0.49, 12)
  expect(stepped(0.5, true, true, UNIT)).toBeCloseTo(0.501, 12)
  expect(stepped(10, true, false, { low: 0, high: 360 })).toBe(15)
})
it('by a twentieth of what is drawn by its logarithm, and there and back again', () => {
  const log = { low: 1e-6, high: 1e-2, log: true }
  expect(stepped(1e-3, true, false, log)).toBeCloseTo(1.05e-3, 9)
  expect(stepped(stepped(1e-3, true, false, log), false, false, log)).toBeCloseTo(1e-3, 8)
})
it('by a tenth of a value without a range, and away from 0', () => {
  const open = { low: -Infinity, high: Infinity }
  expect(stepped(20, true, false, open)).toBe(22)
  expect(stepped(0, true, false, open)).toBeGreaterThan(0)
})
