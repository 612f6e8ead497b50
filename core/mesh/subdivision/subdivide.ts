import { firstAlike } from '../alike'
import type { Part } from '../model'
import { cageOf, sharpenBy, type Cage } from './cage'
import type { Subdivision } from './levels'
import { limitNormals } from './limit'
import { refine } from './refine'

/**
 * A part after steps of Catmull and Clark's subdivision, with the normals of the surface that they lead to. Coordinates
 * and colours go half way between corners, so that seams stay where they are; tangents are made anew.
 */
export function subdividePart(part: Part, { levels, crease }: Subdivision): Part {
  if (levels === 0) return part
  let cage = cageOf(part)
  if (crease !== undefined) sharpenBy(cage, crease)
  for (let level = 0; level < levels; level++) cage = refine(cage)
  return partOf(cage, part)
}

/** The triangles of a cage of quadrilaterals, each vertex once. */
function partOf(cage: Cage, { name, frame, uv, uvMore, colour }: Part): Part {
  const corners = cage.place.length
  const position = new Float32Array(corners * 3)
  for (let c = 0; c < corners; c++)
    for (let k = 0; k < 3; k++) position[c * 3 + k] = cage.position[cage.place[c]! * 3 + k]!
  const arrays = [{ numbers: position, width: 3 }, { numbers: limitNormals(cage), width: 3 }, ...cage.carried]
  const first = firstAlike(corners, arrays)
  const number = new Uint32Array(corners)
  const kept = new Uint32Array(corners)
  let count = 0
  for (let c = 0; c < corners; c++)
    if (first[c] === c) {
      kept[count] = c
      number[c] = count++
    } else number[c] = number[first[c]!]!
  const index = new Uint32Array((corners / 4) * 6)
  const order = [0, 1, 2, 0, 2, 3]
  for (let i = 0; i < index.length; i++) index[i] = number[Math.floor(i / 6) * 4 + order[i % 6]!]!
  const [p, n, ...carried] = arrays.map(({ numbers, width }) => {
    const out = new Float32Array(count * width)
    for (let v = 0; v < count; v++)
      for (let k = 0; k < width; k++) out[v * width + k] = numbers[kept[v]! * width + k]!
    return out
  })
  const taken = (set: Float32Array) => (set.length ? carried.shift()! : set)
  return {
    name,
    position: p!,
    normal: n!,
    uv: taken(uv),
    index,
    ...(uvMore ? { uvMore: uvMore.map(taken) } : {}),
    ...(colour ? { colour: taken(colour) } : {}),
    ...(frame ? { frame } : {}),
  }
}
