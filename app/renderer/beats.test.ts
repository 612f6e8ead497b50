import { afterEach, expect, it, vi } from 'vitest'
import { CONTROL } from '../../workers/protocol'
import { watchBeats } from './beats'

afterEach(() => {
  vi.useRealTimers()
})

it('gives up a worker that answers no more, and no other', () => {
  vi.useFakeTimers()
  const control = new Int32Array(CONTROL.size)
  const given: number[] = []
  const answer = (beat: number) => {
    for (const hand of [0, 1, 2]) if (hand !== 1 || beat < 4 || given.length) control[CONTROL.beats + hand] = beat
  }
  const stop = watchBeats(
    control,
    3,
    answer,
    hand => given.push(hand),
    () => Date.now(),
  )
  vi.advanceTimersByTime(8000)
  expect(given).toEqual([])
  vi.advanceTimersByTime(3000)
  expect(given).toEqual([1])
  vi.advanceTimersByTime(20000)
  expect(given).toEqual([1])
  stop()
  vi.advanceTimersByTime(20000)
  expect(given).toEqual([1])
})
