import { describe, expect, it } from 'vitest'
import { cutText } from './cut-text'

/** Letters of a face: narrow ones, wide ones. */
const measure = (l: string) => (l === 'i' ? 0.25 : l === '…' ? 0.75 : 0.5)

describe('text that is cut to its room', () => {
  it('stays where it fits, also just', () => {
    expect(cutText('amber', 2.5, measure)).toBe('amber')
    expect(cutText('iiii', 1, measure)).toBe('iiii')
  })
  it('leaves room for the ellipsis, and none before it', () => {
    expect(cutText('amber glass', 3, measure)).toBe('ambe…')
    expect(cutText('amber glass', 3.75, measure)).toBe('amber…')
    expect(cutText('iiiiiiii', 1.5, measure)).toBe('iii…')
  })
  it('is an ellipsis where nothing fits', () => {
    expect(cutText('amber', 0.3, measure)).toBe('…')
  })
})
