import { describe, expect, it } from 'vitest'
import type { Part } from '../mesh/model'
import { sphere } from '../mesh/sphere'
import { createGeometry } from '../scene/geometry'
import { box } from '../testing/box'
import { fields } from '.'
import { fieldAtVertices } from './at-vertices'
import type { Side } from '../point/field-ask'

function valuesOf(part: Part, name: string, radius: number, side: Side = 'both'): Float32Array {
  const model = { parts: [part] }
  const values = fieldAtVertices(model, createGeometry(model).hierarchy, fields.get(name)!, radius, side)[0]!
  // those of vertices that a triangle has
  return Float32Array.from([...new Set(part.index)].sort((a, b) => a - b).map(v => values[v]!))
}

describe('fields at vertices', () => {
  it('a sphere has the mean curvature 1/R everywhere (do Carmo 1976), inside out −1/R', () => {
    const ball = sphere('ball', 0.5, 96, 192)
    for (const x of valuesOf(ball, 'curvature', 0.1)) expect(Math.abs(x - 2)).toBeLessThan(0.06)
    const hollow = { ...ball, normal: ball.normal.map(x => -x), index: ball.index.slice().reverse() }
    for (const x of valuesOf(hollow, 'curvature', 0.1)) expect(Math.abs(x + 2)).toBeLessThan(0.06)
    expect(Math.max(...valuesOf(ball, 'curvature', 0.1, 'concave').map(Math.abs))).toBeLessThan(0.01)
  })

  it('of a box: nothing is occluded outside; from inside, an edge keeps away a half and a corner more', () => {
    const solid = box('box', [0, 0, 0], [1, 1, 1])
    expect(Math.max(...valuesOf(solid, 'occlusion', 0.2))).toBe(0)
    // an L in section, pushed out along z: vertices in the middle of the concave edge
    const step: Part = {
      name: 'step',
      position: Float32Array.of(0, 0, -9, 0, 0, 0, 0, 0, 9, 9, 0, -9, 9, 0, 9, 0, 9, -9, 0, 9, 9, 0, 0, 0),
      normal: Float32Array.of(0, 1, 0, 0, 1, 0, 0, 1, 0, 0, 1, 0, 0, 1, 0, 1, 0, 0, 1, 0, 0, 1, 0, 0),
      uv: new Float32Array(0),
      index: Uint32Array.of(0, 1, 3, 1, 4, 3, 1, 2, 4, 0, 5, 7, 7, 5, 6, 7, 6, 2),
    }
    const open = valuesOf(step, 'occlusion', 5)
    expect(open[1]).toBeCloseTo(0.5, 1)
    expect(open[7]).toBeCloseTo(0.5, 1)
  })

  it('of a plate: as thick as it is, by the cosine', () => {
    // the mean of min(1, d / (r cos θ)) with d / r = s is s (2 − s)
    const plate = box('plate', [0, 0, 0], [20, 0.1, 20])
    const middle = { ...plate, position: plate.position.slice() }
    const values = valuesOf(withMiddle(middle), 'thickness', 0.5)
    expect(values.at(-1)).toBeCloseTo(0.2 * (2 - 0.2), 2)
  })
})

/** A plate with a vertex in the middle of its upper side, by a triangle that lies on it. */
function withMiddle(part: Part): Part {
  const n = part.position.length / 3
  const top = part.position.reduce((m, x, i) => (i % 3 === 1 ? Math.max(m, x) : m), -1)
  return {
    ...part,
    position: Float32Array.of(...part.position, 1, top, 0, 0, top, 1, 0, top, 0),
    normal: Float32Array.of(...part.normal, 0, 1, 0, 0, 1, 0, 0, 1, 0),
    uv: new Float32Array(0),
    index: Uint32Array.of(...part.index, n + 2, n + 1, n),
  }
}
