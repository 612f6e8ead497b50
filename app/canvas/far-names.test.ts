import { describe, expect, it } from 'vitest'
import { farNames } from './far-names'

describe('names from afar', () => {
  const at = (id: string, x: number, y: number, text = 'Ten letter') => ({ id, text, x, y })
  it('lie over none that matters more', () => {
    // ten letters are 62 pixels wide: 620 of the canvas at a tenth
    const names = [at('first', 0, 0), at('over it', 500, 50), at('beside it', 700, 0), at('below it', 0, 150)]
    expect([...farNames(names, 0.1)]).toEqual(['first', 'beside it', 'below it'])
    expect([...farNames([...names].reverse(), 0.1)]).toEqual(['below it', 'beside it', 'first'])
  })
  it('are all there where there is room', () => {
    expect(farNames([at('a', 0, 0), at('b', 500, 50)], 1).size).toBe(2)
  })
})
