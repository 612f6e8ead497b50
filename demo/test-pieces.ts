import type { Model } from '../core/mesh/model'
import { sphere } from '../core/mesh/sphere'
import type { Element } from '../core/network/document'
import type { Rig } from '../core/scene/rig'
import { rigsAround } from '../core/scene/rigs'
import type { Camera } from '../core/scene/camera'
import { placed } from '../core/mesh/build/lathe'
import { material, network } from './network-text'
import { box } from '../core/mesh/build/solids'
import type { SceneFiles } from '../cli/write-scene'

type Part = Model['parts'][number]
const BALL = 0.02
export const APART = 0.046

const typeOf = (value: string | number): string =>
  typeof value === 'string' && /,/.test(value) ? 'color3' : value === 'true' ? 'boolean' : 'float'
export const input = (name: string, value: string | number): string =>
  `<input name="${name}" type="${typeOf(value)}" value="${value}"/>`
/** Document of one OpenPBR surface. @param more inputs and nodes written out */
export const surface = (inputs: Record<string, string | number>, wires = '', nodes = ''): Element =>
  network(
    `${nodes}<open_pbr_surface name="surface" type="surfaceshader" xpos="4" ypos="0">${Object.entries(inputs)
      .map(([k, v]) => input(k, v))
      .join('')}${wires}</open_pbr_surface>${material('surface')}`,
  )
const metal = (name: string, roughness: number, more = ''): Element =>
  network(
    `<wl_metal name="surface" type="surfaceshader" xpos="4" ypos="0">
      <input name="metal" type="string" value="${name}"/>
      <input name="roughness" type="float" value="${roughness}"/>${more}</wl_metal>${material('surface')}`,
  )
export const glass = (name: string, more = ''): Element =>
  network(
    `<wl_glass name="surface" type="surfaceshader" xpos="4" ypos="0">
      <input name="glass" type="string" value="${name}"/>${more}</wl_glass>${material('surface')}`,
  )

/** A value that grows with the height of the point, from one end of the part to the other. */
const byHeight = (
  low: number,
  high: number,
  from: number,
  to: number,
): string => `<position name="position" type="vector3" xpos="0" ypos="0"/>
  <extract name="height" type="float" xpos="1" ypos="0"><input name="in" type="vector3" nodename="position"/>
    <input name="index" type="integer" value="1"/></extract>
  <remap name="thickness" type="float" xpos="2" ypos="0"><input name="in" type="float" nodename="height"/>
    <input name="inlow" type="float" value="${low}"/><input name="inhigh" type="float" value="${high}"/>
    <input name="outlow" type="float" value="${from}"/><input name="outhigh" type="float" value="${to}"/></remap>`
const wired = (name: string, node: string): string => `<input name="${name}" type="float" nodename="${node}"/>`

export interface Piece {
  part: Part
  material: Element
}
export const ball = (x: number, y: number, z = 0, radius = BALL): Part =>
  placed(sphere('', radius, 48, 96), [1, 0, 0, 0, 1, 0, 0, 0, 1, x, y, z])

export function scene(
  name: string,
  pieces: Piece[],
  camera: Omit<Camera, 'name'>,
  floor: boolean,
  rig: (rigs: Rig[]) => Rig = rigs => rigs[0]!,
): SceneFiles {
  const parts = pieces.map((p, i) => ({ ...p.part, name: `Piece ${i + 1}` }))
  const materials: Record<string, Element> = Object.fromEntries(
    pieces.map((p, i) => [`Material ${i + 1}`, p.material]),
  )
  const wears = parts.map((p, i) => ({ name: p.name, material: `Material ${i + 1}`, hidden: false }))
  const low = [0, 1, 2].map(k =>
    Math.min(...parts.map(p => p.position.reduce((m, x, i) => (i % 3 === k ? Math.min(m, x) : m), Infinity))),
  )
  const high = [0, 1, 2].map(k =>
    Math.max(...parts.map(p => p.position.reduce((m, x, i) => (i % 3 === k ? Math.max(m, x) : m), -Infinity))),
  )
  if (floor) {
    parts.push(box('Stage', [-0.6, low[1]! - 0.022, -0.6], [0.6, low[1]! - 0.002, 0.6]))
    materials.Stage = surface({ base_color: '0.18, 0.18, 0.18', specular_roughness: 0.6 })
    wears.push({ name: 'Stage', material: 'Stage', hidden: false })
  }
  const lights = rig(rigsAround([...low, ...high]))
  return {
    name,
    model: { parts },
    materials,
    scene: {
      format: 'wavelume-scene',
      version: 1,
      model: '',
      parts: wears,
      materials: {},
      rigs: [lights],
      lights: lights.name,
      cameras: [{ name: 'Front', ...camera }],
      maxOpaque: 8,
      maxSpecular: 32,
      exposure: 0,
    },
  }
}
const row = (y: number, make: (t: number, i: number) => Element, count = 6): Piece[] =>
  Array.from({ length: count }, (_, i) => ({
    part: ball((i - (count - 1) / 2) * APART, y),
    material: make(i / (count - 1), i),
  }))

/** Roughness from 0 to 1 along each row: glossy plastic, gold, metal by colours, glass. */
export const roughnessPiece = (): SceneFiles =>
  scene(
    'Roughness',
    [
      ...row(0.0, t => surface({ transmission_weight: 1, specular_roughness: t * 0.8 })),
      ...row(APART, t =>
        surface({
          base_color: '0.75, 0.16, 0.1',
          base_metalness: 1,
          specular_roughness: t,
          specular_color: '1, 0.7, 0.5',
        }),
      ),
      ...row(2 * APART, t => metal('gold', t)),
      ...row(3 * APART, t => surface({ base_color: '0.05, 0.2, 0.35', specular_roughness: t })),
    ],
    { position: [0, 0.085, 0.62], target: [0, 0.068, 0], fov: 24 },
    true,
  )

/**
 * Index of refraction, rough diffuse reflection, fuzz, grain, and scattering below the surface with a growing mean
 * free path.
 */
export const kindsPiece = (): SceneFiles =>
  scene(
    'Kinds',
    [
      ...row(0, (_, i) =>
        surface({
          transmission_weight: 1,
          specular_roughness: 0,
          specular_ior: [1.1, 1.33, 1.5, 1.7, 2, 2.4][i]!,
        }),
      ),
      ...row(APART, (_, i) =>
        surface({
          specular_roughness: 0.35,
          subsurface_weight: 1,
          subsurface_color: '0.9, 0.55, 0.35',
          subsurface_radius: [0.0003, 0.001, 0.002, 0.004, 0.008, 0.02][i]!,
          subsurface_radius_scale: '1, 0.5, 0.25',
        }),
      ),
      ...row(2 * APART, t =>
        surface({
          base_color: '0.6, 0.6, 0.62',
          base_metalness: 1,
          specular_roughness: 0.4,
          specular_roughness_anisotropy: t,
        }),
      ),
      ...row(3 * APART, t =>
        surface({
          base_color: '0.25, 0.05, 0.12',
          base_diffuse_roughness: t,
          specular_weight: 0.3,
          specular_roughness: 0.6,
          fuzz_weight: t,
          fuzz_color: '0.9, 0.8, 0.85',
          fuzz_roughness: 0.4,
        }),
      ),
    ],
    { position: [0, 0.085, 0.62], target: [0, 0.068, 0], fov: 24 },
    true,
  )

/**
 * Films whose thickness grows from bottom to top: a soap bubble, oil on glass, oxide on titanium, on steel and on
 * gold, a coated lens.
 */
export const filmPiece = (): SceneFiles =>
  scene(
    'Films',
    [
      {
        part: ball(-1.25 * APART, 0.026, 0, 0.027),
        material: surface(
          {
            transmission_weight: 1,
            specular_roughness: 0,
            specular_ior: 1.0,
            geometry_thin_walled: 'true',
            thin_film_weight: 1,
            thin_film_ior: 1.33,
          },
          wired('thin_film_thickness', 'thickness'),
          byHeight(0, 0.054, 0.9, 0.12),
        ),
      },
      {
        part: ball(0, 0.026, 0, 0.027),
        material: surface(
          { transmission_weight: 1, specular_roughness: 0, thin_film_weight: 1, thin_film_ior: 2.2 },
          wired('thin_film_thickness', 'thickness'),
          byHeight(0, 0.054, 0.3, 0.02),
        ),
      },
      {
        part: ball(1.25 * APART, 0.026, 0, 0.027),
        material: surface(
          { base_color: '0.02, 0.02, 0.022', specular_roughness: 0.1, thin_film_weight: 1, thin_film_ior: 2 },
          wired('thin_film_thickness', 'thickness'),
          byHeight(0, 0.054, 0.8, 0.05),
        ),
      },
      {
        part: ball(-1.25 * APART, 0.086, 0, 0.027),
        material: metal(
          'titanium',
          0.2,
          `<input name="film_ior" type="float" value="2.4"/>${wired('film_thickness', 'thickness')}`,
        ),
      },
      {
        part: ball(0, 0.086, 0, 0.027),
        material: metal(
          'iron',
          0.12,
          `<input name="film_ior" type="float" value="2.2"/>${wired('film_thickness', 'thickness')}`,
        ),
      },
      {
        part: ball(1.25 * APART, 0.086, 0, 0.027),
        material: metal(
          'gold',
          0.15,
          `<input name="film_ior" type="float" value="1.5"/>${wired('film_thickness', 'thickness')}`,
        ),
      },
    ].map((p, i) =>
      i < 3
        ? p
        : {
            ...p,
            material: {
              ...p.material,
              children: [...network(byHeight(0.06, 0.114, 0, 220)).children, ...p.material.children],
            },
          },
    ),
    { position: [0, 0.085, 0.6], target: [0, 0.055, 0], fov: 18 },
    true,
  )

/** A prism of 60° lying on its side. */
function prism(length: number, side: number): Part {
  const h = (side * Math.sqrt(3)) / 2
  const p = [
    [-side / 2, 0],
    [side / 2, 0],
    [0, h],
  ] as const
  const position: number[] = []
  const normal: number[] = []
  const index: number[] = []
  const quad = (a: number, b: number) => {
    const [ax, ay] = p[a]!
    const [bx, by] = p[b]!
    const l = Math.hypot(bx - ax, by - ay)
    const n = [(by - ay) / l, (ax - bx) / l, 0]
    const o = position.length / 3
    for (const [x, y, z] of [
      [ax, ay, length],
      [bx, by, length],
      [bx, by, -length],
      [ax, ay, -length],
    ]) {
      position.push(x!, y!, z! / 2)
      normal.push(...n)
    }
    index.push(o, o + 2, o + 1, o, o + 3, o + 2)
  }
  quad(0, 1)
  quad(1, 2)
  quad(2, 0)
  for (const s of [1, -1]) {
    const o = position.length / 3
    for (const [x, y] of p) {
      position.push(x, y, (s * length) / 2)
      normal.push(0, 0, s)
    }
    index.push(...(s > 0 ? [o, o + 1, o + 2] : [o, o + 2, o + 1]))
  }
  return {
    name: '',
    position: Float32Array.from(position),
    normal: Float32Array.from(normal),
    uv: new Float32Array(0),
    index: Uint32Array.from(index),
  }
}

/** Prisms of crown, flint and diamond before a narrow white strip. */
export const prismPiece = (): SceneFiles =>
  scene(
    'Prism',
    ['borosilicate crown 517/642', 'dense flint 785/257', 'diamond'].map((name, i) => ({
      part: placed(prism(0.05, 0.04), [0, 0, 1, 1, 0, 0, 0, 1, 0, (i - 1) * 0.05 - 0.01, 0.02, 0]),
      material: glass(name),
    })),
    { position: [0, 0.03, 0.3], target: [0, 0.017, 0], fov: 26 },
    false,
    () => ({
      name: 'Strips',
      environment: { kind: 'uniform', radiance: [0.03, 0.03, 0.03] },
      turn: 0,
      dim: 1,
      panels: [-7, -6, -5, -4, -3, -2, -1, 0, 1, 2, 3, 4, 5, 6, 7].map(i => {
        const a = (i * 9 * Math.PI) / 180
        return {
          name: `Strip ${i + 8}`,
          centre: [0.5 * Math.sin(a), 0, -0.5 * Math.cos(a)] as [number, number, number],
          u: [0.019 * Math.cos(a), 0, 0.019 * Math.sin(a)] as [number, number, number],
          v: [0, 0.6, 0] as [number, number, number],
          radiance: [1.2, 1.2, 1.2] as [number, number, number],
          visible: true,
        }
      }),
    }),
  )
