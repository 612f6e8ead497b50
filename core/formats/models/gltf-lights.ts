/**
 * Lights of a glTF 2.0 file (KHR_lights_punctual) as lights of a rig: points and spots as small balls, directions
 * as far discs the size of the sun.
 */
import type { Document, Node } from '@gltf-transform/core'
import type { Light } from '@gltf-transform/extensions'
import { luminanceAt } from '../../colour/luminance'
import { MOST_APART } from '../../light/light-layers'
import { SUN_AT, SUN_HALF } from '../../light/sky'
import { MOST_PANELS, MOST_SUNS } from '../../scene/most-panels'
import type { Panel } from '../../scene/rig'
import { uniqueName } from '../../mesh/model'
import { orthonormal } from '../../surface/orthonormal'

/** What a file's lights become, and what of them has no equivalent, in words. */
export interface FileLights {
  panels: Panel[]
  lost: string[]
}

/** Radius of the ball that stands for a point, metres: what shines has a size, and is seen in reflections. */
export const BALL = 0.01

type Vector = [number, number, number]
const times = (v: ArrayLike<number>, by: number): Vector => [v[0]! * by, v[1]! * by, v[2]! * by]

const frame = new Float64Array(6)

/**
 * Reads the lights of a file's scene. Intensities in candela become the luminance of a ball of radius {@link
 * BALL}, I/(π·r²); illuminances in lux that of a disc, E/(π·sin² of its half angle).
 */
export function lightsOfGltf(document: Document): FileLights {
  const root = document.getRoot()
  const scene = root.getDefaultScene() ?? root.listScenes()[0]
  const panels: Panel[] = []
  const kinds: Light[] = []
  const lost: string[] = []
  const taken = new Set<string>()
  let more = 0
  let suns = 0
  const isSun = (light: Light) => light.getType() === 'directional'
  const visit = (node: Node): void => {
    const light = node.getExtension<Light>('KHR_lights_punctual')
    if (light && light.getIntensity() > 0) {
      if (panels.length >= MOST_PANELS || (isSun(light) && suns++ >= MOST_SUNS)) more++
      else {
        kinds.push(light)
        const name = uniqueName((light.getName() || node.getName() || 'Light').slice(0, 100), taken)
        panels.push(panelOf(light, node.getWorldMatrix(), name))
        if (light.getRange()) lost.push(`${name}: light reaches as far as it does, not only ${light.getRange()} m`)
      }
    }
    node.listChildren().forEach(visit)
  }
  scene?.listChildren().forEach(visit)
  if (more) lost.push(`${more} lights beyond the ${MOST_PANELS}, ${MOST_SUNS} of them suns, that a rig holds`)
  return { panels: grouped(panels, kinds), lost }
}

/** Where lights are too many to be kept apart, those that stand in several places are a group each. */
function grouped(panels: Panel[], kinds: readonly Light[]): Panel[] {
  if (panels.length <= MOST_APART) return panels
  const often = new Map<Light, number>()
  for (const light of kinds) often.set(light, (often.get(light) ?? 0) + 1)
  const taken = new Set<string>()
  const names = new Map<Light, string>()
  for (const [light, n] of often)
    if (n > 1) names.set(light, uniqueName((light.getName() || 'Lights').slice(0, 100), taken))
  return panels.map((p, i) => {
    const group = names.get(kinds[i]!)
    return group ? { ...p, group } : p
  })
}

function panelOf(light: Light, m: readonly number[], name: string): Panel {
  // a light looks along −z of its node
  const back = Math.hypot(m[8]!, m[9]!, m[10]!) || 1
  const to: Vector = [-m[8]! / back, -m[9]! / back, -m[10]! / back]
  const at: Vector = [m[12]!, m[13]!, m[14]!]
  const colour = light.getColor()
  const type = light.getType()
  orthonormal(frame, ...to)
  const u = frame.subarray(0, 3)
  const v = frame.subarray(3, 6)
  if (type === 'directional') {
    const r = SUN_AT * Math.tan(SUN_HALF)
    return {
      name,
      centre: times(to, -SUN_AT),
      u: times(u, r),
      v: times(v, r),
      radiance: times(colour, light.getIntensity() / (Math.PI * Math.sin(SUN_HALF) ** 2)),
      visible: false,
      shape: 'sun',
    }
  }
  const degrees = (radians: number) => +((radians * 180) / Math.PI).toFixed(3)
  return {
    name,
    centre: at,
    u: times(u, BALL),
    v: times(v, BALL),
    radiance: times(colour, light.getIntensity() / (Math.PI * BALL * BALL)),
    visible: false,
    shape: 'ball',
    ...(type === 'spot'
      ? { cone: [degrees(light.getInnerConeAngle()), degrees(light.getOuterConeAngle())] as [number, number] }
      : {}),
  }
}

/** Illuminance that lights give at a point, lux, facing each: what an exposure can be set by. */
export function illuminanceAt(panels: readonly Panel[], point: readonly number[]): number {
  return panels.reduce((sum, p) => {
    const area = Math.PI * Math.hypot(...p.u) * Math.hypot(...p.v)
    const d2 = p.centre.reduce((s, c, k) => s + (c - point[k]!) ** 2, 0)
    return sum + (luminanceAt(p.radiance, 0) * area) / Math.max(d2, area)
  }, 0)
}
