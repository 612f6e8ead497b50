import type { ProjectState } from '../../shared/api'
import type { TranslatedMaterial } from '../../core/formats/gltf-materials'
import { rigsAround } from '../../core/light/rigs'
import type { Element } from '../../core/network/document'
import { starters } from '../../core/network/starters'
import { defaultCamera } from '../../core/scene/camera'
import { api } from '../composables/api'
import { createLoader } from './loader'
import { mapFiles } from '../../core/network/map-files'

/** A first state, and what was found and mended in the file. */
export interface NewScene { state: ProjectState, report: string[] }

/**
 * Makes the first state of a project from a dropped model: its own materials as networks, neutral plastic where a part has none, lights around its bounds, a camera that sees all of it.
 * @param progress is told what is being done
 * @throws Error with the reader's words when the file cannot be read
 */
export async function sceneFor(file: File, progress: (what: string) => void = () => undefined): Promise<NewScene> {
  const loader = createLoader()
  try {
    progress(`Reading ${file.name}`)
    const bytes = new Uint8Array(await file.arrayBuffer()), { parts, materials } = await loader.modelFrom(bytes)
    progress(`Building the hierarchy of ${file.name}`)
    const b = (await loader.geometry([])).hierarchy.bounds
    progress(`Keeping ${file.name}`)
    const model = await api.putAsset(bytes, file.name), keys: string[] = [], documents: Record<string, Element> = {}, report = [`${parts.length} parts, ${materials.length} materials`]
    for (const m of materials) {
      let key = m.name.slice(0, 100) || 'Material'
      for (let i = 2; documents[key]; i++) key = `${m.name.slice(0, 100)} ${i}`
      keys.push(key)
      documents[key] = await withAssets(m)
      report.push(...m.lost.map(l => `${key}: ${l}`))
    }
    if (parts.some(p => p.material < 0)) documents.Plastic ??= starters.find(s => s.key === 'plastic')!.make()
    return {
      report,
      state: {
        materials: documents,
        scene: {
          format: 'wavelume-scene', version: 1, model, parts: parts.map(p => ({ name: p.name, material: keys[p.material] ?? 'Plastic', hidden: false })), materials: {},
          rigs: rigsAround(b), lights: 'Three panels', cameras: [{ ...defaultCamera(b, 16, 10), name: 'First' }], maxOpaque: 8, maxSpecular: 24, exposure: 0,
        },
      },
    }
  }
  finally { loader.stop() }
}

/** Keeps a material's embedded images as assets, and names them so. */
async function withAssets(m: TranslatedMaterial): Promise<Element> {
  const hashes: string[] = []
  for (const i of m.images) hashes.push(await api.putAsset(i.bytes, i.name))
  return mapFiles(m.document, (value, attributes) => { const n = /^embedded:(\d+)$/.exec(value)?.[1]; return n !== undefined && hashes[+n] ? { ...attributes, value: `asset:${hashes[+n]}` } : attributes })
}
