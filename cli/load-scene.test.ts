import { mkdtempSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { afterAll, describe, expect, it } from 'vitest'
import { writePly } from '../core/formats/models/ply-write'
import { sphere } from '../core/mesh/sphere'
import { command } from './commands/render'
import { loadScene } from './load-scene'
import { parseOptions } from './options'

const folder = mkdtempSync(join(tmpdir(), 'wavelume-scene-'))
afterAll(() => rmSync(folder, { recursive: true }))
const file = (name: string, content: string | Uint8Array): string => {
  writeFileSync(join(folder, name), content)
  return join(folder, name)
}
const ball = file('ball.ply', writePly({ parts: [sphere('ball', 0.5, 8, 16)] }))
const load = (...args: string[]) => loadScene(args[0]!, parseOptions(args, command.takes(args)), false)
const scene = (environment: object, more: object = {}): string =>
  file(
    's.scene.json',
    JSON.stringify({
      format: 'wavelume-scene',
      version: 1,
      model: 'ball.ply',
      parts: [{ name: 'ball', material: 'grey', hidden: false }],
      rigs: [{ name: 'r', environment }],
      lights: 'r',
      ...more,
    }),
  )

describe('what is rendered', () => {
  it('has no stand-in for an environment picture that is not there', async () => {
    await expect(load(ball, '--environment', join(folder, 'none.exr'))).rejects.toThrow('no environment picture')
    await expect(load(scene({ kind: 'image', asset: 'none.exr' }))).rejects.toThrow(
      'no environment picture none.exr',
    )
  })

  it('takes the bounces of a scene, and the usual ones for what scenes of before carried', async () => {
    const light = { kind: 'uniform', radiance: [1, 1, 1] }
    expect((await load(scene(light))).world).toMatchObject({ maxOpaque: 64, maxSpecular: 64 })
    expect((await load(scene(light, { maxOpaque: 8, maxSpecular: 24 }))).world.maxOpaque).toBe(64)
    expect((await load(scene(light, { maxOpaque: 3, maxSpecular: 500 }))).world).toMatchObject({
      maxOpaque: 3,
      maxSpecular: 500,
    })
  })
})
