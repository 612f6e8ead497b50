// Loads the demo projects into the database, unless they are there:  node scripts/bundle.mjs demo/load.ts [--bare]
// --bare loads the lantern alone: what the end-to-end tests begin with. Stills of the others are put into the queue
// of frames, for `wavelume worker` to compute.
import type { Knex } from 'knex'
import { demoProjects, lanternProject } from './scenes'
import { askForStills } from './stills'
import { readGlb } from '../core/formats/models/glb'
import { createGeometry } from '../core/scene/geometry'
import { GEOMETRY_VERSION, packGeometry } from '../core/scene/geometry-pack'
import { writeGlb } from '../core/formats/models/glb-write'
import { putAsset } from '../server/database/assets'
import { closeDatabase, openDatabase } from '../server/database/client'
import { putGeometry } from '../server/database/geometries'
import { createProject, listProjects, readProject } from '../server/database/projects'
import { listProofs } from '../server/database/proofs'
import { closeQueue } from '../server/jobs/queue'

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

/** Asks for the stills of demo projects that have none. */
async function askForMissingStills(db: Knex): Promise<void> {
  const there = await listProjects(db)
  for (const { name } of demoProjects.map(make => make())) {
    const project = there.find(p => p.name === name)
    const kept = project && !project.still ? await readProject(db, project.id) : undefined
    if (kept && !(await listProofs(db, kept.id)).length) await askForStills(db, url, kept.id, name, kept.state)
  }
}

const url = process.env.WAVELUME_DATABASE ?? ''
if (!url) throw new Error('WAVELUME_DATABASE does not say where the database is')
const bare = process.argv.includes('--bare')
const db = await openDatabase(url)
await load(db, bare ? [lanternProject] : demoProjects)
if (!bare) await askForMissingStills(db)
await closeQueue()
await closeDatabase()
