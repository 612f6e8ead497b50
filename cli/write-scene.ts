import { mkdirSync, writeFileSync } from 'node:fs'
import { writeGlb } from '../core/formats/models/glb-write'
import { writeMtlx } from '../core/formats/mtlx/mtlx'
import type { DemoProject } from '../demo/scenes'

/** Writes a demo project as a scene file with its model and its materials. @returns the scene's path */
export async function writeScene(project: DemoProject, folder: string): Promise<string> {
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
