import type { ProjectState } from '../../shared/api'
import { rigsAround } from '../../core/light/rigs'
import { starters } from '../../core/network/starters'
import { defaultCamera } from '../../core/scene/camera'
import { api } from '../composables/api'
import { createLoader } from './loader'

/**
 * Makes the first state of a project from a dropped model: every part in neutral plastic, lights around its bounds, a camera that sees all of it.
 * @throws Error with the reader's words when the file cannot be read
 */
export async function sceneFor(file: File): Promise<ProjectState> {
  const loader = createLoader()
  try {
    const bytes = new Uint8Array(await file.arrayBuffer()), names = await loader.modelFrom(bytes), geometry = await loader.geometry([]), b = geometry.hierarchy.bounds
    const model = await api.putAsset(bytes, file.name)
    const base = starters.find(s => s.key === 'plastic')!.make()
    return {
      materials: { Plastic: base },
      scene: {
        format: 'wavelume-scene', version: 1, model, parts: names.map(name => ({ name, material: 'Plastic', hidden: false })), materials: {},
        rigs: rigsAround(b), lights: 'Three panels', cameras: [{ ...defaultCamera(b, 16, 10), name: 'First' }], maxOpaque: 8, maxSpecular: 24, exposure: 0,
      },
    }
  }
  finally { loader.stop() }
}
