import { describe, expect, it } from 'vitest'
import { sphere } from '../mesh/sphere'
import { createGeometry } from './geometry'
import { packGeometry, unpackGeometry } from './geometry-pack'

const plain = (n: number) => new ArrayBuffer(n)
const model = { parts: [sphere('Ä "part"\n', 1, 12, 24), sphere('second', 2, 6, 9, [3, 0, 0])] }

describe('packed geometry', () => {
  it('comes back as it was built, also from a view into a larger buffer', () => {
    const g = createGeometry(model, new Set(['second']))
    const bytes = packGeometry(g)
    const shifted = new Uint8Array(bytes.length + 4)
    shifted.set(bytes, 4)
    expect(unpackGeometry(bytes, plain)).toEqual(g)
    expect(unpackGeometry(shifted.subarray(4), plain)).toEqual(g)
  })
  it('keeps vertex colours, white where only other parts have them', () => {
    const ball = sphere('coloured', 1, 4, 6)
    const n = ball.position.length / 3
    ball.colour = Float32Array.from({ length: n * 4 }, (_, i) => i / n)
    const g = createGeometry({ parts: [ball, sphere('plain', 1, 4, 6, [3, 0, 0])] })
    expect(Array.from(g.colour.subarray(0, n * 4))).toEqual(Array.from(ball.colour))
    expect(g.colour.subarray(n * 4).every(x => x === 1)).toBe(true)
    expect(unpackGeometry(packGeometry(g), plain)).toEqual(g)
    expect(createGeometry(model).colour).toHaveLength(0)
  })
  it('is refused when cut short, empty or of another version', () => {
    const bytes = packGeometry(createGeometry(model))
    const text = new TextDecoder('latin1').decode(bytes.subarray(0, 40))
    expect(unpackGeometry(bytes.subarray(0, bytes.length - 4), plain)).toBeUndefined()
    expect(unpackGeometry(new Uint8Array(4), plain)).toBeUndefined()
    const other = bytes.slice()
    other[text.indexOf('version":') + 9] = '0'.charCodeAt(0)
    expect(unpackGeometry(other, plain)).toBeUndefined()
  })
})
