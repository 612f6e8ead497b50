import { afterEach, beforeEach, expect, it, vi } from 'vitest'
import { paced, pictureStands } from './paced'

let got: number[] = []
const call = paced((x: number) => {
  got.push(x)
})
beforeEach(() => {
  vi.useFakeTimers()
  got = []
  vi.advanceTimersByTime(1000)
  pictureStands()
})
afterEach(() => {
  vi.runAllTimers()
  vi.useRealTimers()
})

it('the first value goes at once, later ones wait for its picture, and only the last of them counts', () => {
  for (const x of [1, 2, 3]) call(x)
  expect(got).toEqual([1])
  pictureStands()
  expect(got).toEqual([1, 3])
  vi.advanceTimersByTime(500)
  expect(got).toEqual([1, 3])
})
it('where no picture comes the last value is made all the same', () => {
  call(1)
  vi.advanceTimersByTime(20)
  call(2)
  vi.advanceTimersByTime(24)
  expect(got).toEqual([1])
  vi.advanceTimersByTime(1)
  expect(got).toEqual([1, 2])
})
it('a value after a rest goes at once', () => {
  call(1)
  vi.advanceTimersByTime(60)
  call(2)
  expect(got).toEqual([1, 2])
})
it('several that wait all come when the picture stands', () => {
  const other: number[] = []
  const second = paced((x: number) => {
    other.push(x)
  })
  call(1)
  second(1)
  call(2)
  second(2)
  pictureStands()
  expect([got, other]).toEqual([
    [1, 2],
    [1, 2],
  ])
})
