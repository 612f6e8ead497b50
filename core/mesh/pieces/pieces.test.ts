import { describe, expect, it } from 'vitest'
import { isClosed } from '../closed'
import { volumeOf } from '../measures'
import { PIECES } from './index'
import { PIECE_NAMES, type PieceName } from './names'

const part = (piece: PieceName, name: string) => PIECES[piece]().parts.find(p => p.name === name)!

describe('test pieces', () => {
  it.each(Object.keys(PIECE_NAMES) as PieceName[])('%s is sound: finite, unit normals, outward', name => {
    const { parts } = PIECES[name]()
    expect(new Set(parts.map(p => p.name)).size).toBe(parts.length)
    for (const p of parts) {
      expect(p.uv.length / 2).toBe(p.position.length / 3)
      expect(p.position.every(Number.isFinite)).toBe(true)
      for (let i = 0; i < p.normal.length; i += 3)
        expect(Math.hypot(p.normal[i]!, p.normal[i + 1]!, p.normal[i + 2]!)).toBeCloseTo(1, 4)
      // normals agree with the winding
      let against = 0
      for (let t = 0; t < p.index.length; t += 3) {
        const [a, b, c] = [0, 1, 2].map(k => p.index[t + k]! * 3) as [number, number, number]
        const e = [0, 1, 2].map(k => p.position[b + k]! - p.position[a + k]!)
        const f = [0, 1, 2].map(k => p.position[c + k]! - p.position[a + k]!)
        const n = [0, 1, 2].map(k => e[(k + 1) % 3]! * f[(k + 2) % 3]! - e[(k + 2) % 3]! * f[(k + 1) % 3]!)
        if (n.reduce((sum, x, k) => sum + x * p.normal[a + k]!, 0) < -1e-12) against++
      }
      expect(against).toBe(0)
    }
  })

  it('bodies are closed and as large as their shape says', () => {
    for (const [piece, name, wanted] of [
      ['Ball on steps', 'Ball', (4 / 3) * Math.PI * 0.05 ** 3],
      ['Soft and sharp cube', 'Sharp', 0.06 ** 3],
      // a rounded cube: three boxes, twelve quarter cylinders, a ball (Steiner's formula)
      [
        'Soft and sharp cube',
        'Soft',
        0.044 ** 3 + 6 * 0.044 ** 2 * 0.008 + 3 * Math.PI * 0.044 * 0.008 ** 2 + (4 / 3) * Math.PI * 0.008 ** 3,
      ],
      // half of a ball less half of a smaller one
      ['Thin bowl', 'Bowl', (2 / 3) * Math.PI * (0.05 ** 3 - 0.0485 ** 3)],
      ['Prism', 'Prism', (Math.sqrt(3) / 4) * 0.05 ** 2 * 0.09],
      ['Turned disc', 'Disc', Math.PI * 0.05 ** 2 * 0.008],
    ] as const) {
      const p = part(piece, name)
      expect(isClosed(p), name).toBe(true)
      expect(Math.abs(volumeOf(p) / wanted - 1), name).toBeLessThan(0.01)
    }
  })

  it('the bowl’s wall is 1.5 mm', () => {
    const { position } = part('Thin bowl', 'Bowl')
    for (let i = 0; i < position.length; i += 3) {
      const r = Math.hypot(position[i]!, position[i + 1]! - 0.05, position[i + 2]!)
      expect(Math.min(Math.abs(r - 0.05), Math.abs(r - 0.0485))).toBeLessThan(1e-6)
    }
  })
})
