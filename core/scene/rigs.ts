import type { Panel, Rig } from './rig'

/** L* 50, the ground that pictures stand on. */
export const BACKDROP: [number, number, number] = [0.1842, 0.1842, 0.1842]

/** A panel that faces `target`: `width` and `height` in metres, `power` as radiance. */
function panel(
  name: string,
  centre: [number, number, number],
  target: [number, number, number],
  width: number,
  height: number,
  power: number,
  tint: [number, number, number] = [1, 1, 1],
): Panel {
  const scaled = (x: number[], by: number) => x.map(c => c * by) as [number, number, number]
  const n = [0, 1, 2].map(k => target[k]! - centre[k]!)
  const l = Math.hypot(...n)
  const w = n.map(x => x / l)
  const up = Math.abs(w[1]!) > 0.95 ? [0, 0, 1] : [0, 1, 0]
  const r = [up[1]! * w[2]! - up[2]! * w[1]!, up[2]! * w[0]! - up[0]! * w[2]!, up[0]! * w[1]! - up[1]! * w[0]!]
  const rl = Math.hypot(...r)
  const u = r.map(x => x / rl)
  const v = [w[1]! * u[2]! - w[2]! * u[1]!, w[2]! * u[0]! - w[0]! * u[2]!, w[0]! * u[1]! - w[1]! * u[0]!]
  return {
    name,
    centre,
    u: scaled(u, width / 2),
    v: scaled(v, height / 2),
    radiance: scaled(tint, power),
    visible: false,
  }
}

/** The way to the sun, its radius at that distance for 0.53° across, and its steradians. */
const TO_SUN = [-3.2, 4.1, 3.0] as const
const SUN_HALF = (0.265 * Math.PI) / 180
const SUN = Math.hypot(...TO_SUN) * Math.tan(SUN_HALF)
const SUN_STERADIANS = Math.PI * Math.sin(SUN_HALF) ** 2

/** Light rigs for a model of height `size` that stands on the origin, metres. */
export function rigs(size: number): Rig[] {
  const at = (x: number, y: number, z: number): [number, number, number] => [x * size, y * size, z * size]
  const middle = at(0, 0.5, 0)
  const all: (Pick<Rig, 'name' | 'environment'> & Partial<Rig>)[] = [
    {
      name: 'Three panels',
      environment: { kind: 'uniform', radiance: [0.05, 0.05, 0.052] },
      backdrop: BACKDROP,
      panels: [
        panel('Key', at(-2.1, 2.1, 2.0), middle, 1.5 * size, 2.2 * size, 7, [1, 0.97, 0.92]),
        panel('Strip', at(2.4, 1.3, 0.7), middle, 0.5 * size, 2.4 * size, 8, [0.93, 0.97, 1]),
        panel('Rim', at(0.4, 2.6, -2.2), middle, 2.4 * size, 0.8 * size, 6),
      ],
    },
    { name: 'Overcast', environment: { kind: 'uniform', radiance: [0.75, 0.78, 0.82] }, backdrop: BACKDROP },
    {
      name: 'Dark with rims',
      environment: { kind: 'uniform', radiance: [0.012, 0.012, 0.013] },
      backdrop: [0.03, 0.03, 0.03],
      panels: [
        panel('Left rim', at(-2.4, 1, -1.2), middle, 0.6 * size, 2.6 * size, 16),
        panel('Right rim', at(2.4, 1, -1.2), middle, 0.6 * size, 2.6 * size, 16),
      ],
    },
    // half a degree across like the sun; it gives three times what a white wall under a uniform sky of 1 would
    // show
    {
      name: 'Small hard sun',
      environment: { kind: 'uniform', radiance: [0.16, 0.18, 0.22] },
      backdrop: BACKDROP,
      panels: [
        {
          ...panel(
            'Sun',
            at(...TO_SUN),
            [0, 0, 0],
            2 * SUN * size,
            2 * SUN * size,
            (3 * Math.PI) / SUN_STERADIANS,
            [1, 0.95, 0.88],
          ),
          shape: 'sun',
        },
      ],
    },
    {
      name: 'Window',
      environment: { kind: 'uniform', radiance: [0.06, 0.058, 0.055] },
      backdrop: BACKDROP,
      panels: [0, 1, 2, 3].map(i =>
        panel(
          `Pane ${i + 1}`,
          at(-2.2, 0.75 + (i >> 1) * 1.05, (i & 1) * 1.05 - 0.35),
          at(0, 0.75 + (i >> 1) * 1.05, (i & 1) * 1.05 - 0.35),
          0.95 * size,
          0.95 * size,
          5,
          [0.95, 0.98, 1],
        ),
      ),
    },
  ]
  return all.map(r => ({ panels: [], turn: 0, dim: 1, ...r }))
}

/** The same rigs moved to a model's bounds (min then max). */
export function rigsAround(bounds: ArrayLike<number>): Rig[] {
  const size = Math.max(
    bounds[4]! - bounds[1]!,
    (bounds[3]! - bounds[0]!) * 0.6,
    (bounds[5]! - bounds[2]!) * 0.6,
    1e-6,
  )
  const shift = [
    (bounds[0]! + bounds[3]!) / 2,
    (bounds[1]! + bounds[4]! - size) / 2,
    (bounds[2]! + bounds[5]!) / 2,
  ]
  return rigs(size).map(r => ({
    ...r,
    panels: r.panels.map(p => ({
      ...p,
      // a sun stands for directions
      centre: p.shape === 'sun' ? p.centre : (p.centre.map((x, k) => x + shift[k]!) as [number, number, number]),
    })),
  }))
}
