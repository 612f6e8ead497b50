/** A model out of the files that came together: the model itself, its material libraries, its images. */
import type { Panel } from '../scene/rig'
import type { Model } from '../mesh/model'
import { boxesOf } from '../mesh/transform'
import { smoothNormals } from '../mesh/model'
import { FormatError } from './error'
import { modelOf, parseGlb, parseGltf } from './glb'
import { lightsOfGltf } from './gltf-lights'
import { materialsOfGltf } from './gltf-materials'
import { MODEL } from './model-ending'
import { materialsOfMtl } from './mtl'
import { parseObj } from './obj'
import { readPly } from './ply'
import type { TranslatedMaterial } from './translated'

export interface ModelFiles {
  model: Model
  /** Number of each part's material; −1 for none. */
  materialOf: number[]
  materials: TranslatedMaterial[]
  /** Whether the format says that its unit is the metre. */
  unitKnown: boolean
  /** What was not found or has no equivalent, in words. */
  missing: string[]
  /** Lights that came with the model. */
  lights: Panel[]
}

/**
 * Reads the first model among some files with what belongs to it.
 * @throws FormatError where there is no model, or one that cannot be read
 */
export async function readModelFiles(files: readonly { name: string; bytes: Uint8Array }[]): Promise<ModelFiles> {
  const main = files.find(f => MODEL.test(f.name))
  if (!main) throw new FormatError('model', 'none of the files is a model: .glb, .gltf, .obj and .ply are')
  const byName = new Map(files.map(f => [f.name.split(/[\\/]/).at(-1)!, f.bytes]))
  const text = () => new TextDecoder().decode(main.bytes)
  const ending = MODEL.exec(main.name)![1]!.toLowerCase()
  if (ending === 'glb' || ending === 'gltf') {
    const document = ending === 'glb' ? await parseGlb(main.bytes) : await parseGltf(text(), byName)
    const { panels, lost } = lightsOfGltf(document)
    return {
      ...modelOf(document),
      materials: materialsOfGltf(document),
      unitKnown: true,
      missing: lost,
      lights: panels,
    }
  }
  if (ending === 'ply') {
    const { position, index } = readPly(main.bytes)
    return {
      model: {
        parts: [
          { name: 'Model', position, index, normal: smoothNormals(position, index), uv: new Float32Array(0) },
        ],
      },
      materialOf: [-1],
      materials: [],
      unitKnown: false,
      missing: [],
      lights: [],
    }
  }
  const { model, materialOf, libraries } = parseObj(text())
  const missing: string[] = []
  const materials: TranslatedMaterial[] = []
  for (const library of libraries) {
    const bytes = byName.get(library.split(/[\\/]/).at(-1)!)
    if (bytes) materials.push(...materialsOfMtl(new TextDecoder().decode(bytes), byName))
    else missing.push(`the material library ${library.slice(0, 120)} did not come with it`)
  }
  for (const name of new Set(materialOf))
    if (name !== undefined && materials.length && !materials.some(m => m.name === name))
      missing.push(`no library holds the material ${name}`)
  return {
    model,
    materialOf: materialOf.map(n => materials.findIndex(m => m.name === n)),
    materials,
    unitKnown: false,
    missing,
    lights: [],
  }
}

/** Scales a model in place. */
export function scaleModel(model: Model, factor: number): void {
  if (factor === 1) return
  for (const p of model.parts) {
    for (let i = 0; i < p.position.length; i++) p.position[i]! *= factor
    if (p.copy) for (let r = 3; r < 12; r += 4) p.copy.transform[r]! *= factor
  }
}

/** Extent of a model along x, y and z. */
export function extentOf(model: Model): [number, number, number] {
  const boxes = boxesOf(model)
  return [0, 1, 2].map(
    k =>
      boxes.reduce((m, b) => Math.max(m, b[k + 3]!), -Infinity) -
      boxes.reduce((m, b) => Math.min(m, b[k]!), Infinity),
  ) as [number, number, number]
}
