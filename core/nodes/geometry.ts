import { absolute, dot, least, most, multiply, negate, subtract } from '../expression/arithmetic'
import { number, point, type Expression } from '../expression/expression'
import { MORE_SETS, POINT } from '../point/slots'
import { components, EmitFault, type EmitContext, type NodeEntry } from './emit'

const three = (first: number): Expression[] => [0, 1, 2].map(k => point(first + k))

/** A value in the space that is asked for. */
function inSpace(c: EmitContext, world: number, object: number): Expression[] {
  const space = c.text('space')
  if (space !== 'world' && space !== 'object' && space !== 'model')
    throw new EmitFault('space is object, model or world')
  return three(space === 'world' ? world : object)
}

/**
 * Values of the shading point (MaterialX specification, "Geometric nodes", "NPR nodes"). Object and model space are
 * the part's own, before its file or a copy moved it.
 */
export const entries: Record<string, NodeEntry> = {
  'position': {
    about: 'Place of the point, metres.',
    emit: c => inSpace(c, POINT.position, POINT.objectPosition),
  },
  'normal': {
    about: 'Shading normal on the outer side, unit.',
    emit: c => inSpace(c, POINT.normal, POINT.objectNormal),
  },
  'tangent': { about: 'Direction of growing u, unit.', emit: c => inSpace(c, POINT.tangent, POINT.objectTangent) },
  '@bitangent': { about: 'Across normal and tangent, unit.', emit: () => three(POINT.bitangent) },
  '@viewdirection': { about: 'From the eye to the point, unit.', emit: () => three(POINT.view) },
  'geomcolor': {
    about: 'Colour that the model carries at its vertices; white where it has none.',
    emit: c => {
      if (c.fixed('index') !== 0) throw new EmitFault('parts have one set of vertex colours: index is 0')
      return components(c, k => point(POINT.colour + k))
    },
  },
  // seconds, whatever the rate of frames (MaterialX specification, "Application nodes")
  'time': { about: 'Seconds, for materials that change.', emit: c => [c.time()] },
  'texcoord': {
    about: 'Texture coordinates of the part, v up.',
    emit: c => {
      const set = c.fixed('index')
      if (!(Number.isInteger(set) && set >= 0 && set <= MORE_SETS))
        throw new EmitFault(`parts have up to ${MORE_SETS + 1} sets of coordinates: index is 0 to ${MORE_SETS}`)
      const u = set === 0 ? POINT.uv : POINT.uvMore + 2 * (set - 1)
      return [point(u), point(u + 1), number(0)].slice(0, c.size)
    },
  },
  'facingratio': {
    about: 'Cosine between the viewer and the surface.',
    emit: c => {
      const d = dot(c.arg('viewdirection'), c.arg('normal'))
      const facing = c.fixed('faceforward') ? absolute(d) : negate(d)
      return [c.fixed('invert') ? subtract(1, facing) : facing]
    },
  },
  'wl_rest_position': {
    about: 'Place of the point before its material displaced it, in the space of its part, metres.',
    emit: () => three(POINT.restPosition),
  },
  'wl_rest_normal': {
    about: 'Normal before the material displaced the part, in the space of the part, unit.',
    emit: () => three(POINT.restNormal),
  },
  'wl_curvature': {
    about: 'How the surface bends within a radius, in metres: convex, concave or both, 0..1.',
    emit: c => {
      const side = c.text('side')
      if (side !== 'convex' && side !== 'concave' && side !== 'both')
        throw new EmitFault(`side is convex, concave or both`)
      return [c.field('curvature', side)]
    },
  },
  'wl_occlusion': {
    about:
      'Share of an even sky that something within a radius keeps away: 0 in the open, a half in a right-angled ' +
      'corner; inward of a sky inside the solid: high where it is thin or has an edge. Strength multiplies it.',
    emit: c => {
      const side = c.text('side')
      if (side !== 'outward' && side !== 'inward') throw new EmitFault('side is outward or inward')
      const share = c.field('occlusion', side === 'outward' ? 'concave' : 'convex')
      return [least(1, most(0, multiply(share, c.arg('strength')[0]!)))]
    },
  },
  'wl_thickness': {
    about: 'How far the other side of the solid is, over the radius: 1 where it is farther.',
    emit: c => [c.field('thickness', 'convex')],
  },
}
