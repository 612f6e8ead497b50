// Writes the demo projects as scene files for the command line:  node scripts/bundle.mjs demo/export.ts FOLDER
import { mkdirSync, writeFileSync } from 'node:fs'
import { writeMtlx } from '../core/formats/mtlx'
import { lanternProject } from './scenes'
import { writeGlb } from '../core/formats/glb-write'

const folder = process.argv[2] ?? 'demo-files'
mkdirSync(folder, { recursive: true })
for (const project of [lanternProject()]) {
  const base = project.name.toLowerCase().replace(/ /g, '-')
  writeFileSync(`${folder}/${base}.glb`, await writeGlb(project.model))
  const materials = Object.fromEntries(Object.entries(project.materials).map(([key, document], i) => {
    writeFileSync(`${folder}/${base}-${i}.mtlx`, writeMtlx(document))
    return [key, { document: `${base}-${i}.mtlx` }]
  }))
  writeFileSync(`${folder}/${base}.scene.json`, JSON.stringify({ ...project.scene, model: `${base}.glb`, materials }, null, 1))
}
