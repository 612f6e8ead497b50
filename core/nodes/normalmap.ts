import { both, divide, equal, length, most, multiply, select, subtract, sum } from '../expression/arithmetic'
import type { Expression } from '../expression/expression'
import type { EmitContext, NodeEntry } from './emit'

/** 0..1 to −1..1, scaled along the surface, turned into the frame, made unit. */
export function turnedNormal(
  c: EmitContext,
  v: readonly Expression[],
  scale: readonly Expression[],
): Expression[] {
  const n = c.arg('normal')
  const t = c.arg('tangent')
  const b = c.arg('bitangent')
  const empty = both(both(equal(v[0]!, 0), equal(v[1]!, 0)), equal(v[2]!, 0))
  const signed = (k: number) => subtract(multiply(v[k]!, 2), 1)
  const x = select(empty, 0, multiply(signed(0), scale[0]!))
  const y = select(empty, 0, multiply(signed(1), scale[1] ?? scale[0]!))
  const z = select(empty, 1, signed(2))
  const w = [0, 1, 2].map(k => sum([multiply(t[k]!, x), multiply(b[k]!, y), multiply(n[k]!, z)]))
  const l = divide(1, most(1e-12, length(w)))
  return w.map(k => multiply(k, l))
}

/** Tangent-space normal map (MaterialX 1.39 specification, "normalmap"). */
export const entries: Record<string, NodeEntry> = {
  normalmap: {
    about: 'Normal from a picture of normals.',
    emit: c => turnedNormal(c, c.arg('in'), c.arg('scale')),
  },
}
