import type { Model } from '../core/mesh/model'
import type { Element } from '../core/network/document'
import type { SceneDocument } from '../core/scene/document'
import { lanternModel } from './lantern'
import { lanternMaterials } from './lantern-materials'
import { rigs } from '../core/light/rigs'

/** A demo project as its model, its materials and its scene; `scene.model` is filled in by whoever keeps the model. */
export interface DemoProject { name: string, model: Model, materials: Record<string, Element>, scene: SceneDocument }

const LANTERN: Record<string, string> = {
  Housing: 'Chipped enamel', Bezel: 'Worn brass', Lens: 'Pressed glass', Diffuser: 'Milky polymer', Ring: 'Signal yellow', Chimney: 'Titanium',
  Handle: 'Wrapped grip', Reflector: 'Bright aluminium', Dial: 'Dial nickel', Stage: 'Stage grey',
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
