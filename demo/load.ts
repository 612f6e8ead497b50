// Loads the demo projects into the database, unless they are there:  node scripts/bundle.mjs demo/load.ts
import { lanternProject } from './scenes'
import { writeGlb } from '../core/formats/glb-write'
import { putAsset } from '../server/database/assets'
import { closeDatabase, openDatabase } from '../server/database/client'
import { createProject, listProjects } from '../server/database/projects'

const db = await openDatabase(process.env.WAVELUME_DATABASE ?? 'postgres://wavelume@127.0.0.1:54329/wavelume')
const there = new Set((await listProjects(db)).map(p => p.name))
for (const make of [lanternProject]) {
  const project = make()
  if (there.has(project.name)) { console.log(`${project.name}: already there`); continue }
  const model = await putAsset(db, await writeGlb(project.model), 'model/gltf-binary', `${project.name}.glb`)
  await createProject(db, project.name, { scene: { ...project.scene, model }, materials: project.materials })
  console.log(`${project.name}: loaded`)
}
await closeDatabase()
