/** Numbers that the vertices of a part carry, whatever they are. */
import type { Part } from './model'

/** An array of a part: so many numbers for each vertex. */
export interface VertexArray {
  numbers: Float32Array
  width: number
}

/**
 * A part whose arrays of vertices were made anew.
 * @param make new array of one that is there; its place in the part says which
 */
export function mapVertices(part: Part, make: (a: VertexArray, of: VertexKind) => Float32Array): Part {
  const made = (numbers: Float32Array, width: number, of: VertexKind = 'linear') => make({ numbers, width }, of)
  return {
    ...part,
    position: made(part.position, 3),
    normal: made(part.normal, 3, 'direction'),
    uv: part.uv.length ? made(part.uv, 2) : part.uv,
    ...(part.tangent ? { tangent: made(part.tangent, 4, 'tangent') } : {}),
    ...(part.colour ? { colour: made(part.colour, 4) } : {}),
    ...(part.uvMore ? { uvMore: part.uvMore.map(set => (set.length ? made(set, 2) : set)) } : {}),
    ...(part.rest
      ? { rest: { position: made(part.rest.position, 3), normal: made(part.rest.normal, 3, 'direction') } }
      : {}),
  }
}

/** What means of them are: taken as they come, or of length one; a tangent's fourth number is a sign. */
export type VertexKind = 'linear' | 'direction' | 'tangent'

/** A part with the vertices of another one, each taken from where `source` says. */
export const pickVertices = (part: Part, source: Uint32Array): Part =>
  mapVertices(part, ({ numbers, width }) => {
    const out = new Float32Array(source.length * width)
    for (let v = 0; v < source.length; v++)
      for (let k = 0; k < width; k++) out[v * width + k] = numbers[source[v]! * width + k]!
    return out
  })
