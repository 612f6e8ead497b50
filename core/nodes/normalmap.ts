import type { NodeEntry } from './emit'

/**
 * Tangent-space normal map (MaterialX 1.39 specification, "normalmap"): 0..1 to −1..1, scaled along the surface,
 * turned into the frame, made unit.
 */
export const entries: Record<string, NodeEntry> = {
  normalmap: {
    about: 'Normal from a picture of normals.',
    emit: c => {
      const v = c.arg('in')
      const s = c.arg('scale')
      const n = c.arg('normal')
      const t = c.arg('tangent')
      const b = c.arg('bitangent')
      const empty = c.local(`${v[0]} === 0 && ${v[1]} === 0 && ${v[2]} === 0`)
      const x = c.local(`${empty} ? 0 : (${v[0]} * 2 - 1) * ${s[0]}`)
      const y = c.local(`${empty} ? 0 : (${v[1]} * 2 - 1) * ${s[1] ?? s[0]}`)
      const z = c.local(`${empty} ? 1 : ${v[2]} * 2 - 1`)
      const w = [0, 1, 2].map(k => c.local(`${t[k]} * ${x} + ${b[k]} * ${y} + ${n[k]} * ${z}`))
      const l = c.local(
        `1 / Math.max(1e-12, Math.sqrt(${w[0]} * ${w[0]} + ${w[1]} * ${w[1]} + ${w[2]} * ${w[2]}))`,
      )
      return w.map(k => `(${k} * ${l})`)
    },
  },
}
