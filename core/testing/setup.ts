/** Small scenes and renders for the tests of the core. */
import { rigSchema, type Rig } from '../scene/rig'
import { useOf } from '../fields/use'
import { createLights } from '../light/create-lights'
import type { Model } from '../mesh/model'
import { compileNetwork } from '../network/compile'
import type { Texture } from '../maps/texture'
import type { Element } from '../network/document'
import { instantiate, type Shader } from '../network/instantiate'
import { placeOnPlane } from '../point/plane'
import { POINT_STRIDE } from '../point/slots'
import { readMtlx } from '../formats/mtlx/mtlx'
import { TILE } from '../render/film'
import type { Material, RenderScene } from '../world/render-scene'
import { createTracer } from '../render/tracer'
import { renderTile } from '../render/integrate'
import { cameraFrame, type Camera } from '../scene/camera'
import { createGeometry } from '../scene/geometry'

export const mtlx = (body: string, attributes = 'version="1.39" colorspace="lin_rec709"'): Element =>
  readMtlx(`<?xml version="1.0"?><materialx ${attributes}>${body}</materialx>`)

/** @param pictures what the material's images are, in the order of its program */
export function materialOf(document: Element, path: string, pictures: readonly Texture[] = []): Material {
  const program = compileNetwork(document, path)
  const errors = program.faults.filter(f => f.severity === 'error')
  if (errors.length) throw new Error(errors.map(f => `${f.where}: ${f.message}`).join('; '))
  return {
    shader: instantiate(
      program,
      program.images.map((_, i) => pictures[i] ?? null),
    ),
    constants: Float64Array.from(program.constants),
    fields: program.fields.map(useOf),
    opens: program.opens === true,
  }
}

const typeOf = (value: string | number): string =>
  /,/.test(String(value)) ? 'color3' : /^(true|false)$/.test(String(value)) ? 'boolean' : 'float'

/** Surface node text. */
export const pbr = (inputs: Record<string, string | number>, name = 's'): string =>
  `<open_pbr_surface name="${name}" type="surfaceshader">${Object.entries(inputs)
    .map(([k, v]) => `<input name="${k}" type="${typeOf(v)}" value="${v}"/>`)
    .join('')}</open_pbr_surface>`

export const uniform = (r: number, g = r, b = r): Rig =>
  rigSchema.parse({ name: 'u', environment: { kind: 'uniform', radiance: [r, g, b] } })

export function sceneOf(
  model: Model,
  materials: Material[],
  rig: Rig,
  camera: Camera,
  width: number,
  height: number,
): RenderScene {
  const geometry = createGeometry(model)
  return {
    geometry,
    lights: createLights(rig, null),
    materials,
    materialOf: Int32Array.from(geometry.partNames, (_, i) => Math.min(i, materials.length - 1)),
    priorityOf: new Int32Array(geometry.partNames.length),
    camera: cameraFrame(camera, width, height),
    maxOpaque: 8,
    maxSpecular: 24,
  }
}

/** Sum of passes [from, to) over a small picture, three numbers a pixel. */
export function sumOfPasses(
  scene: RenderScene,
  width: number,
  height: number,
  from: number,
  to: number,
  seed = 0,
): Float64Array {
  const tracer = createTracer()
  const tile = new Float64Array(TILE * TILE * 3)
  const sum = new Float64Array(width * height * 3)
  for (let pass = from; pass < to; pass++)
    for (let y0 = 0; y0 < height; y0 += TILE)
      for (let x0 = 0; x0 < width; x0 += TILE) {
        const w = Math.min(TILE, width - x0)
        const h = Math.min(TILE, height - y0)
        renderTile(tracer, scene, x0, y0, w, h, width, height, pass, seed, tile, null)
        for (let i = 0; i < w * h; i++)
          for (let k = 0; k < 3; k++)
            sum[((y0 + Math.floor(i / w)) * width + x0 + (i % w)) * 3 + k]! += tile[i * 3 + k]!
      }
  if (tracer.counts.lost) throw new Error(`${tracer.counts.lost} samples were not numbers`)
  return sum
}

/** Mean colour of a picture. */
export function meanColour(sum: Float64Array, passes: number): number[] {
  const n = sum.length / 3
  return [0, 1, 2].map(k => {
    let s = 0
    for (let i = 0; i < n; i++) s += sum[i * 3 + k]!
    return s / n / passes
  })
}

/** Value of a node at a point of the unit plane. */
export function valueAt(shader: Shader, C: Float64Array, T: Float64Array, u: number, v: number): number[] {
  const S = new Float64Array(POINT_STRIDE)
  placeOnPlane(S, u, v)
  shader.value(S, C, shader.images)
  return Array.from(T)
}
