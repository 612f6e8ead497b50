import { EmitFault, type NodeEntry } from './emit'

/** Places in a shading point, see `network/shading-point.ts`. */
import { POINT } from '../point/slots'

const three = (first: number): string[] => [0, 1, 2].map(k => `S[${first + k}]`)

/**
 * Values of the shading point (MaterialX specification, "Geometric nodes", "NPR nodes"). Parts stand still, so
 * object, model and world space agree.
 */
export const entries: Record<string, NodeEntry> = {
  'position': { about: 'Place of the point, metres.', emit: () => three(POINT.position) },
  'normal': { about: 'Shading normal on the outer side, unit.', emit: () => three(POINT.normal) },
  'tangent': { about: 'Direction of growing u, unit.', emit: () => three(POINT.tangent) },
  '@bitangent': { about: 'Across normal and tangent, unit.', emit: () => three(POINT.bitangent) },
  '@viewdirection': { about: 'From the eye to the point, unit.', emit: () => three(POINT.view) },
  'geomcolor': {
    about: 'Colour that the model carries at its vertices; white where it has none.',
    emit: c => {
      if (c.fixed('index') !== 0) throw new EmitFault('parts have one set of vertex colours: index is 0')
      return Array.from({ length: c.size }, (_, k) => `S[${POINT.colour + k}]`)
    },
  },
  // seconds, whatever the rate of frames (MaterialX specification, "Application nodes")
  'time': { about: 'Seconds, for materials that change.', emit: c => [c.time()] },
  'texcoord': {
    about: 'Texture coordinates of the part, v up.',
    emit: c => [`S[${POINT.uv}]`, `S[${POINT.uv + 1}]`, '0'].slice(0, c.size),
  },
  'facingratio': {
    about: 'Cosine between the viewer and the surface.',
    emit: c => {
      const v = c.arg('viewdirection')
      const n = c.arg('normal')
      const d = c.local(`${v[0]} * ${n[0]} + ${v[1]} * ${n[1]} + ${v[2]} * ${n[2]}`)
      const facing = c.fixed('faceforward') ? `Math.abs(${d})` : `(-${d})`
      return [c.fixed('invert') ? `(1 - ${facing})` : facing]
    },
  },
  'wl_curvature': {
    about: 'How the surface bends within a radius, in metres: convex, concave or both, 0..1.',
    emit: c => {
      const side = c.text('side')
      if (side !== 'convex' && side !== 'concave' && side !== 'both')
        throw new EmitFault(`side is convex, concave or both`)
      return [`S[${POINT.probe + c.probe(c.arg('radius')[0]!, side)}]`]
    },
  },
}
