/** Fields at the vertices of parts. */
import { withoutCopy } from '../mesh/transform'
import type { Model, Part } from '../mesh/model'
import type { Side } from '../point/field-ask'
import type { Hierarchy } from '../trace/hierarchy'
import { fieldAt } from './at-place'
import type { Field } from './field'

/** How far into a triangle the place of its corner is taken, of the way to its middle. */
const IN = 0.01

/**
 * A field at each vertex of each part; 0 at those that no triangle has.
 * @param h hierarchy of the whole model
 * @param radius metres
 */
export function fieldAtVertices(
  model: Model,
  h: Hierarchy,
  field: Field,
  radius: number,
  side: Side,
): Float32Array[] {
  const at = fieldAt(h, field, radius, side)
  const place = new Float64Array(6)
  return model.parts.map(part => {
    const whole = withoutCopy(model, part)
    const out = new Float32Array(whole.position.length / 3)
    const done = new Uint8Array(out.length)
    for (let c = 0; c < whole.index.length; c++) {
      const v = whole.index[c]!
      if (done[v]) continue
      if (!besideCorner(whole, c, place)) continue
      done[v] = 1
      out[v] = at(place)
    }
    return out
  })
}

/**
 * A place just beside a corner, in its triangle, and that triangle's normal: the corner itself may lie in the plane of
 * what stands on the next triangle.
 * @returns false where the triangle has no area
 */
function besideCorner({ position, index }: Part, corner: number, out: Float64Array): boolean {
  const t = corner - (corner % 3)
  const at = (k: number, i: number) => position[index[t + k]! * 3 + i]!
  for (let i = 0; i < 3; i++) {
    const [p, q] = [(i + 1) % 3, (i + 2) % 3]
    const own = at(corner % 3, i)
    out[i] = own + IN * ((at(0, i) + at(1, i) + at(2, i)) / 3 - own)
    out[3 + i] = (at(1, p) - at(0, p)) * (at(2, q) - at(0, q)) - (at(1, q) - at(0, q)) * (at(2, p) - at(0, p))
  }
  const l = Math.hypot(out[3]!, out[4]!, out[5]!)
  for (let i = 3; i < 6; i++) out[i]! /= l
  return l > 0
}
