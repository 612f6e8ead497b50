import type { Model } from '../core/mesh/model'
import type { Element } from '../core/network/document'
import type { SceneDocument } from '../core/scene/document'
import { lanternModel } from './lantern'
import { hatchMaterials, hatchModel } from './hatch'
import { stairHallMaterials, stairHallModel } from './stair-hall'
import { lanternMaterials } from './lantern-materials'
import { rigs } from '../core/light/rigs'

/** A demo project as its model, its materials and its scene; `scene.model` is filled in by whoever keeps the model. */
export interface DemoProject { name: string, model: Model, materials: Record<string, Element>, scene: SceneDocument }

const LANTERN: Record<string, string> = {
  Housing: 'Chipped enamel', Bezel: 'Worn brass', Lens: 'Pressed glass', Diffuser: 'Milky polymer', Ring: 'Signal yellow', Chimney: 'Titanium',
  Handle: 'Wrapped grip', Reflector: 'Hammered aluminium', Dial: 'Dial nickel', Stage: 'Stage grey',
}

export function lanternProject(): DemoProject {
  const model = lanternModel()
  return {
    name: 'Skerry lantern', model, materials: lanternMaterials(),
    scene: {
      format: 'wavelume-scene', version: 1, model: '',
      parts: model.parts.map(p => ({ name: p.name, material: LANTERN[p.name]!, hidden: false })),
      materials: {}, rigs: rigs(0.22), lights: 'Three panels',
      cameras: [{ name: 'Front', position: [0.16, 0.21, 0.60], target: [0, 0.107, 0], fov: 26 }],
      maxOpaque: 8, maxSpecular: 24, exposure: 0,
    },
  }
}

const HALL: Record<string, string> = { Floor: 'Terrazzo', Border: 'Terrazzo', Treads: 'Terrazzo', Landing: 'Terrazzo', Risers: 'Limewash', Wall: 'Limewash', Handrail: 'Varnished wood', Balusters: 'Painted steel', Skirting: 'Painted steel' }
/** Finishes of the terrazzo: polished as the material has it, honed, and brushed for the feet. */
const FINISH: Record<string, string> = { Border: '0.3', Treads: '0.46', Landing: '0.3' }

export function stairHallProject(): DemoProject {
  const model = stairHallModel()
  return {
    name: 'Tidewell stair hall', model, materials: stairHallMaterials(),
    scene: {
      format: 'wavelume-scene', version: 1, model: '',
      parts: model.parts.map(p => ({ name: p.name, material: HALL[p.name]!, hidden: false, ...(FINISH[p.name] ? { values: { 'stock#specular_roughness': FINISH[p.name]! } } : {}) })),
      materials: {}, rigs: rigs(2.4).map(r => r.name === 'Window' ? { ...r, dim: 2.6 } : r), lights: 'Window',
      cameras: [{ name: 'From the door', position: [-1.3, 1.5, 5.3], target: [0.08, 0.98, 0.4], fov: 31 }],
      maxOpaque: 8, maxSpecular: 24, exposure: 0,
    },
  }
}

const HATCH: Record<string, string> = { Plate: 'Marine paint', Rim: 'Marine paint', Door: 'Marine paint', Gasket: 'Gasket rubber', Bolts: 'Marine paint', Collar: 'Bronze', 'Port glass': 'Port glass', Gauge: 'Gauge face', 'Hand wheel': 'Worn bronze', Hinges: 'Marine paint' }
const PAINT: Record<string, string> = { Door: '0.4, 0.11, 0.02', Bolts: '0.03, 0.035, 0.04' }

export function hatchProject(): DemoProject {
  const model = hatchModel()
  return {
    name: 'Cormorant hatch', model, materials: hatchMaterials(),
    scene: {
      format: 'wavelume-scene', version: 1, model: '',
      parts: model.parts.map(p => ({ name: p.name, material: HATCH[p.name]!, hidden: false, ...(PAINT[p.name] ? { values: { 'paint#base_color': PAINT[p.name]! } } : {}) })),
      materials: {}, rigs: rigs(1.3), lights: 'Three panels',
      cameras: [{ name: 'Front', position: [0.75, 0.95, 2.6], target: [0, 0.62, 0.02], fov: 31 }],
      maxOpaque: 8, maxSpecular: 24, exposure: 0,
    },
  }
}

/** Every demo project, in the order they are made. */
export const demoProjects = [hatchProject, stairHallProject, lanternProject]
