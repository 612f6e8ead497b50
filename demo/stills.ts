import { execFileSync } from 'node:child_process'
import { mkdtempSync, readFileSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import type { Knex } from 'knex'
import { readLinear } from '../cli/commands/compare'
import { developedPng } from '../cli/picture-file'
import { shrink } from '../core/render/shrink'
import { putAsset } from '../server/database/assets'
import { keepProof } from '../server/database/proofs'
import type { ProjectState } from '../shared/api'
import type { SceneFiles } from '../cli/write-scene'
import { writeScene } from '../cli/write-scene'

const WIDTH = 384
const HEIGHT = 240
const PASSES = 12

/** Renders a project by the command line's own renderer. @returns the float EXR, and its linear pixels */
async function rendered(project: SceneFiles, passes: number): Promise<{ exr: Uint8Array; rgb: Float32Array }> {
  const folder = mkdtempSync(join(tmpdir(), 'wavelume-demo-'))
  try {
    const out = join(folder, 'still.exr')
    execFileSync(
      'node',
      [
        'scripts/cli.mjs',
        'render',
        await writeScene(project, folder),
        '-o',
        out,
        '--size',
        `${WIDTH}x${HEIGHT}`,
        '--passes',
        String(passes),
        '--seed',
        '1',
        '--json',
      ],
      { stdio: ['ignore', 'ignore', 'inherit'] },
    )
    return { exr: new Uint8Array(readFileSync(out)), rgb: readLinear(out).rgb }
  } finally {
    rmSync(folder, { recursive: true, force: true })
  }
}

/**
 * Gives a demo project its stills: a proof of how it stands, and a made-up reference, which is another rendering
 * of it under turned lights, a third of a stop brighter, as a photographer would have brought it.
 */
export async function addStills(db: Knex, id: string, project: SceneFiles, state: ProjectState): Promise<void> {
  const keep = async (
    kind: 'proof' | 'reference',
    name: string,
    picture: string,
    rgb: Float32Array,
    settings: Record<string, unknown>,
  ) => {
    const small = shrink(rgb, WIDTH, HEIGHT, 240)
    const thumbnail = await putAsset(
      db,
      developedPng(small.rgb, small.width, small.height),
      'image/png',
      'still.png',
    )
    await keepProof(db, id, { kind, name, width: WIDTH, height: HEIGHT, picture, thumbnail, settings })
  }
  const turned = {
    ...project,
    scene: { ...project.scene, rigs: project.scene.rigs.map(r => ({ ...r, turn: r.turn + 25 })) },
  }
  const photo = await rendered(turned, 16)
  await keep(
    'reference',
    `Reference, ${project.name}`,
    await putAsset(db, developedPng(photo.rgb, WIDTH, HEIGHT, 1 / 3), 'image/png', 'reference.png'),
    photo.rgb,
    {},
  )
  const still = await rendered(project, PASSES)
  await keep('proof', 'As it came', await putAsset(db, still.exr, 'image/x-exr', 'proof.exr'), still.rgb, {
    passes: PASSES,
    exposure: 0,
    lights: state.scene.lights,
    camera: state.scene.cameras[0],
    state,
  })
}
