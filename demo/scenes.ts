import { USUAL_BOUNCES } from '../core/scene/bounces'
import type { Model } from '../core/mesh/model'
import type { Element } from '../core/network/document'
import type { Rig } from '../core/scene/rig'
import { rigs } from '../core/scene/rigs'
import type { Camera } from '../core/scene/camera'
import { hatchMaterials, hatchModel } from './hatch'
import { lanternModel } from './lantern'
import { lanternMaterials } from './lantern-materials'
import { stairHallMaterials, stairHallModel } from './stair-hall'
import type { SceneFiles } from '../cli/write-scene'

/** What tells one demo project from another. */
interface Setting {
  model: Model
  materials: Record<string, Element>
  /** Material of each part. */
  wears: Readonly<Record<string, string>>
  /** Own value of some parts for an input that their material publishes. */
  own?: { input: string; of: Readonly<Record<string, string>> }
  /** Longest edges of displaced parts' triangles, metres. */
  edges?: Readonly<Record<string, number>>
  rigs: Rig[]
  lights: string
  camera: Camera
}

function project(name: string, s: Setting): SceneFiles {
  const values = (part: string) => (s.own?.of[part] ? { values: { [s.own.input]: s.own.of[part]! } } : {})
  return {
    name,
    model: s.model,
    materials: s.materials,
    scene: {
      format: 'wavelume-scene',
      version: 1,
      model: '',
      parts: s.model.parts.map(p => ({
        name: p.name,
        material: s.wears[p.name]!,
        hidden: false,
        ...values(p.name),
        ...(s.edges?.[p.name] ? { edge: s.edges[p.name] } : {}),
      })),
      materials: {},
      rigs: s.rigs,
      lights: s.lights,
      cameras: [s.camera],
      maxOpaque: USUAL_BOUNCES,
      maxSpecular: USUAL_BOUNCES,
      exposure: 0,
    },
  }
}

export const lanternProject = (): SceneFiles =>
  project('Skerry lantern', {
    model: lanternModel(),
    materials: lanternMaterials(),
    rigs: rigs(0.22),
    lights: 'Three panels',
    edges: { Reflector: 0.001 },
    camera: { name: 'Front', position: [0.16, 0.21, 0.6], target: [0, 0.107, 0], fov: 26 },
    wears: {
      Housing: 'Chipped enamel',
      Bezel: 'Worn brass',
      Lens: 'Pressed glass',
      Diffuser: 'Milky polymer',
      Ring: 'Signal yellow',
      Chimney: 'Titanium',
      Handle: 'Wrapped grip',
      Reflector: 'Hammered aluminium',
      Dial: 'Dial nickel',
      Stage: 'Stage grey',
    },
  })

/** One terrazzo in three finishes: polished as the material has it, honed, and brushed for the feet. */
export const stairHallProject = (): SceneFiles =>
  project('Tidewell stair hall', {
    model: stairHallModel(),
    materials: stairHallMaterials(),
    rigs: rigs(2.4).map(r => (r.name === 'Window' ? { ...r, dim: 2.6 } : r)),
    lights: 'Window',
    camera: { name: 'From the door', position: [-1.3, 1.5, 5.3], target: [0.08, 0.98, 0.4], fov: 31 },
    wears: {
      Floor: 'Terrazzo',
      Border: 'Terrazzo',
      Treads: 'Terrazzo',
      Landing: 'Terrazzo',
      Risers: 'Limewash',
      Wall: 'Limewashed plaster',
      Handrail: 'Varnished wood',
      Balusters: 'Painted steel',
      Skirting: 'Painted steel',
    },
    own: { input: 'stock#specular_roughness', of: { Border: '0.3', Treads: '0.46', Landing: '0.3' } },
  })

export const hatchProject = (): SceneFiles =>
  project('Cormorant hatch', {
    model: hatchModel(),
    materials: hatchMaterials(),
    rigs: rigs(1.3),
    lights: 'Three panels',
    camera: { name: 'Front', position: [0.75, 0.95, 2.6], target: [0, 0.62, 0.02], fov: 31 },
    wears: {
      'Plate': 'Overgrown paint',
      'Rim': 'Marine paint',
      'Door': 'Marine paint',
      'Gasket': 'Gasket rubber',
      'Bolts': 'Marine paint',
      'Collar': 'Bronze',
      'Port glass': 'Port glass',
      'Gauge': 'Gauge face',
      'Hand wheel': 'Worn bronze',
      'Hinges': 'Marine paint',
    },
    edges: { Plate: 0.007 },
    own: { input: 'paint#base_color', of: { Door: '0.4, 0.11, 0.02', Bolts: '0.03, 0.035, 0.04' } },
  })

/** Every demo project, in the order they are made. */
export const demoProjects = [hatchProject, stairHallProject, lanternProject]
