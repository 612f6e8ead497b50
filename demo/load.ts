// Loads the demo projects into the database, unless they are there:  node scripts/bundle.mjs demo/load.ts [--bare]
// --bare loads the lantern alone, without stills: what the end-to-end tests begin with.
import { demoProjects, lanternProject } from './scenes'
import { addStills } from './stills'
import { readGlb } from '../core/formats/models/glb'
import { createGeometry } from '../core/scene/geometry'
import { GEOMETRY_VERSION, packGeometry } from '../core/scene/geometry-pack'
import { writeGlb } from '../core/formats/models/glb-write'
import { putAsset } from '../server/database/assets'
import { closeDatabase, openDatabase } from '../server/database/client'
import { putGeometry } from '../server/database/geometries'
import { createProject, listProjects } from '../server/database/projects'

const bare = process.argv.includes('--bare')
const db = await openDatabase(process.env.WAVELUME_DATABASE ?? 'postgres://wavelume@127.0.0.1:54329/wavelume')
const there = new Set((await listProjects(db)).map(p => p.name))
for (const make of bare ? [lanternProject] : demoProjects) {
  const project = make()
  if (there.has(project.name)) {
    console.log(`${project.name}: already there`)
    continue
  }
  const glb = await writeGlb(project.model)
  const model = await putAsset(db, glb, 'model/gltf-binary', `${project.name}.glb`)
  const state = { scene: { ...project.scene, model }, materials: project.materials }
  await putGeometry(db, model, GEOMETRY_VERSION, packGeometry(createGeometry(await readGlb(glb))))
  const { id } = await createProject(db, project.name, state)
  if (!bare) {
    console.log(`${project.name}: rendering its stills`)
    await addStills(db, id, project, state)
  }
  console.log(`${project.name}: loaded`)
}
await closeDatabase()
