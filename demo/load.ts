// Loads the demo projects into the database, unless they are there:  node scripts/bundle.mjs demo/load.ts [--bare]
// --bare loads the lantern alone: what the end-to-end tests begin with. --stills renders the stills of demo projects
// that have none, beside the server that shows them already.
import type { Knex } from 'knex'
import { demoProjects, lanternProject } from './scenes'
import { addStills } from './stills'
import { readGlb } from '../core/formats/models/glb'
import { createGeometry } from '../core/scene/geometry'
import { GEOMETRY_VERSION, packGeometry } from '../core/scene/geometry-pack'
import { writeGlb } from '../core/formats/models/glb-write'
import { putAsset } from '../server/database/assets'
import { closeDatabase, openDatabase } from '../server/database/client'
import { putGeometry } from '../server/database/geometries'
import { createProject, listProjects, readProject } from '../server/database/projects'
import { listProofs } from '../server/database/proofs'

type MakeProject = (typeof demoProjects)[number]

/** Puts projects into the database that are not there. */
async function load(db: Knex, projects: readonly MakeProject[]): Promise<void> {
  const there = new Set((await listProjects(db)).map(p => p.name))
  for (const make of projects) {
    const project = make()
    if (there.has(project.name)) {
      console.log(`${project.name}: already there`)
      continue
    }
    const glb = await writeGlb(project.model)
    const model = await putAsset(db, glb, 'model/gltf-binary', `${project.name}.glb`)
    await putGeometry(db, model, GEOMETRY_VERSION, packGeometry(createGeometry(await readGlb(glb))))
    await createProject(db, project.name, { scene: { ...project.scene, model }, materials: project.materials })
    console.log(`${project.name}: loaded`)
  }
}

/** Gives demo projects their stills, one project after the other. */
async function addMissingStills(db: Knex): Promise<void> {
  const there = await listProjects(db)
  for (const make of demoProjects) {
    const project = make()
    const id = there.find(p => p.name === project.name)?.id
    const kept = id === undefined ? undefined : await readProject(db, id)
    if (!kept || (await listProofs(db, kept.id)).length) continue
    console.log(`${project.name}: rendering its stills`)
    await addStills(db, kept.id, project, kept.state)
  }
}

const db = await openDatabase(process.env.WAVELUME_DATABASE ?? 'postgres://wavelume@127.0.0.1:54329/wavelume')
if (process.argv.includes('--stills')) await addMissingStills(db)
else await load(db, process.argv.includes('--bare') ? [lanternProject] : demoProjects)
await closeDatabase()
