// Writes the demo projects as scene files for the command line:  node scripts/bundle.mjs demo/export.ts FOLDER
import { demoProjects } from './scenes'
import { writeScene } from '../cli/write-scene'

for (const make of demoProjects) console.log(await writeScene(make(), process.argv[2] ?? 'demo-files'))
