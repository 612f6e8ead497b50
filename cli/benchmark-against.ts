import { execFileSync } from 'node:child_process'
import { existsSync, mkdirSync, mkdtempSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join, resolve } from 'node:path'
import { writeGlb } from '../core/formats/glb-write'
import { writeMtlx } from '../core/formats/mtlx'
import { sceneSchema } from '../core/scene/document'
import { benchmarkLook, benchmarkModel, VIEW } from './benchmark-scene'
import { InputError } from './options'

const SIZE = '640x400'

/** Writes the benchmark scene as files that every build reads. @returns path of the scene */
async function writeBenchmarkScene(folder: string): Promise<string> {
  const model = benchmarkModel(), { documents, materialOf, rig } = benchmarkLook(), path = join(folder, 'benchmark.scene.json')
  mkdirSync(folder, { recursive: true })
  writeFileSync(join(folder, 'benchmark.glb'), await writeGlb(model))
  const materials = Object.fromEntries(documents.map((d, i) => {
    writeFileSync(join(folder, `benchmark-${i}.mtlx`), writeMtlx(d))
    return [`m${i}`, { document: `benchmark-${i}.mtlx` }]
  }))
  const scene = sceneSchema.parse({ format: 'wavelume-scene', version: 1, model: 'benchmark.glb', parts: model.parts.map((p, i) => ({ name: p.name, material: `m${materialOf[i]!}` })), materials, rigs: [rig], lights: rig.name, cameras: [VIEW] })
  writeFileSync(path, JSON.stringify(scene))
  return path
}

/** Camera paths a second of `render` in one build, from the start of its workers on. */
function pathsPerSecond(tree: string, scene: string, picture: string, passes: number, threads: number): number {
  const text = execFileSync(process.execPath, ['scripts/cli.mjs', 'render', scene, '-o', picture, '--size', SIZE, '--passes', String(passes), '--threads', String(threads), '--json'], { cwd: tree, encoding: 'utf8', stdio: ['ignore', 'pipe', 'ignore'] })
  const { paths, seconds } = JSON.parse(text) as { paths: number, seconds: number }
  return paths / seconds
}

/**
 * `benchmark against`: camera paths a second of this build over those of another one, on the benchmark scene and on the lantern as that build has it, by `render` of each, in turns.
 * @param tree checkout of the other build, its packages installed
 */
export async function benchmarkAgainst(tree: string, rounds: number, passes: number, threads: number): Promise<unknown> {
  const other = resolve(tree)
  for (const file of ['scripts/cli.mjs', 'demo/export.ts', 'node_modules']) if (!existsSync(join(other, file))) throw new InputError(`${tree} is no build to compare with: it has no ${file}`)
  const folder = mkdtempSync(join(tmpdir(), 'wavelume-against-')), picture = join(folder, 'picture.exr')
  try {
    execFileSync(process.execPath, ['scripts/bundle.mjs', 'demo/export.ts', folder], { cwd: other, stdio: 'ignore' })
    const scenes = { benchmark: await writeBenchmarkScene(folder), lantern: join(folder, 'skerry-lantern.scene.json') }, result: Record<string, unknown> = {}
    for (const [name, scene] of Object.entries(scenes)) {
      const ours: number[] = [], theirs: number[] = []
      for (let round = 0; round < rounds; round++) {
        theirs.push(pathsPerSecond(other, scene, picture, passes, threads))
        ours.push(pathsPerSecond(process.cwd(), scene, picture, passes, threads))
      }
      const ratios = ours.map((x, i) => x / theirs[i]!).sort((a, b) => a - b)
      result[name] = { ratio: +ratios[ratios.length >> 1]!.toFixed(3), ratios: ratios.map(x => +x.toFixed(3)), bestOverBest: +(Math.max(...ours) / Math.max(...theirs)).toFixed(3), pathsPerSecond: Math.round(Math.max(...ours)), theirs: Math.round(Math.max(...theirs)) }
    }
    return { size: SIZE, passes, threads, ...result, accept: { ratio: 1.5 } }
  }
  finally { rmSync(folder, { recursive: true }) }
}
