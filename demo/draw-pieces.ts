// Renders the test pieces of docs/optics.md:  node scripts/bundle.mjs demo/draw-pieces.ts [NAME] [PASSES]
import { execFileSync } from 'node:child_process'
import { jointsPiece } from './joints-piece'
import { mediaPiece } from './media-piece'
import { filmPiece, kindsPiece, prismPiece, roughnessPiece } from './test-pieces'
import { writeScene } from '../cli/write-scene'

const [only = '', passes = '72'] = process.argv.slice(2)
const folder = '.build/pieces'
for (const make of [roughnessPiece, kindsPiece, filmPiece, prismPiece, mediaPiece, jointsPiece]) {
  const project = make()
  if (!project.name.toLowerCase().includes(only.toLowerCase())) continue
  const scene = await writeScene(project, folder)
  const base = scene.replace('.scene.json', '')
  execFileSync(
    'node',
    [
      'scripts/cli.mjs',
      'render',
      scene,
      '-o',
      `${base}.exr`,
      '--size',
      '640x420',
      '--passes',
      passes,
      '--threads',
      '2',
    ],
    { stdio: ['ignore', 2, 2] },
  )
  execFileSync('node', ['scripts/cli.mjs', 'convert', `${base}.exr`, `${base}.png`], { stdio: ['ignore', 2, 2] })
  console.log(`${base}.png`)
}
