import { mkdirSync, writeFileSync } from 'node:fs'
import { writeGlb } from '../core/formats/models/glb-write'
import { writeMtlx } from '../core/formats/mtlx/mtlx'
import type { Element } from '../core/network/document'
import type { Model } from '../core/mesh/model'
import type { SceneDocument } from '../core/scene/document'

/**
 * A demo project as its model, its materials and its scene; `scene.model` is filled in by whoever keeps the model.
 */
export interface SceneFiles {
  name: string
  model: Model
  materials: Record<string, Element>
  scene: SceneDocument
}

/** Writes it as a scene file with its model and its materials. @returns the scene's path */
export async function writeScene(project: SceneFiles, folder: string): Promise<string> {
  mkdirSync(folder, { recursive: true })
  const base = project.name.toLowerCase().replace(/ /g, '-')
  const path = `${folder}/${base}.scene.json`
  writeFileSync(`${folder}/${base}.glb`, await writeGlb(project.model))
  const materials = Object.fromEntries(
    Object.entries(project.materials).map(([key, document], i) => {
      writeFileSync(`${folder}/${base}-${i}.mtlx`, writeMtlx(document))
      return [key, { document: `${base}-${i}.mtlx` }]
    }),
  )
  writeFileSync(path, JSON.stringify({ ...project.scene, model: `${base}.glb`, materials }, null, 1))
  return path
}
