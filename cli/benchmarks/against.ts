import { execFileSync, spawn, type ChildProcess } from 'node:child_process'
import { existsSync, mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join, resolve } from 'node:path'
import { sceneSchema } from '../../core/scene/document'
import { writeScene } from '../write-scene'
import { benchmarkLook, benchmarkModel, VIEW } from './scene'
import { InputError } from '../options'
import type { Benchmark } from '../command'

const SIZE = [640, 400] as const
/** How long each build runs at a time, ms. */
const SLICE = 500
/** Ratio that is asked for of a change that is to cost nothing. */
const ACCEPT = 0.97

/** The benchmark scene as files that every build reads. @returns path of the scene */
function writeBenchmarkScene(folder: string): Promise<string> {
  const model = benchmarkModel()
  const { documents, materialOf, rig } = benchmarkLook()
  const key = (i: number) => `m${i}`
  const scene = sceneSchema.parse({
    format: 'wavelume-scene',
    version: 1,
    model: '',
    parts: model.parts.map((p, i) => ({ name: p.name, material: key(materialOf[i]!) })),
    rigs: [rig],
    lights: rig.name,
    cameras: [VIEW],
  })
  return writeScene(
    { name: 'Benchmark', model, materials: Object.fromEntries(documents.map((d, i) => [key(i), d])), scene },
    folder,
  )
}

/** What has been started: none of it may stay behind, stopped, when this process is told to end. */
const started = new Set<ChildProcess>()
const endAll = (): void => {
  for (const c of started) c.kill('SIGKILL')
}

interface Run {
  child: ChildProcess
  /** Whether it has ended. */ over: boolean
  /** Seconds for which it was let run. */ seconds: number
  failed?: string
}

function start(tree: string, scene: string, picture: string, passes: number, threads: number): Run {
  const child = spawn(
    process.execPath,
    [
      'scripts/cli.mjs',
      'render',
      scene,
      '-o',
      picture,
      '--size',
      SIZE.join('x'),
      '--passes',
      String(passes),
      '--threads',
      String(threads),
    ],
    { cwd: tree, stdio: 'ignore' },
  )
  const run: Run = { child, over: false, seconds: 0 }
  started.add(child)
  child.on('exit', code => {
    started.delete(child)
    run.over = true
    if (code !== 0) run.failed = `render ended with ${code ?? 'a signal'} in ${tree}`
  })
  child.kill('SIGSTOP')
  return run
}

/**
 * Lets each run go on for a slice in turns until all have ended: the machine's moods, which last for seconds, meet
 * them all.
 */
async function inTurns(runs: Run[]): Promise<void> {
  while (runs.some(r => !r.over)) {
    for (const r of runs) {
      if (r.over) continue
      const began = performance.now()
      r.child.kill('SIGCONT')
      while (!r.over && performance.now() - began < SLICE) await new Promise(resolve => setTimeout(resolve, 5))
      if (!r.over) r.child.kill('SIGSTOP')
      r.seconds += (performance.now() - began) / 1000
    }
  }
  const failed = runs.find(r => r.failed)
  if (failed) throw new InputError(failed.failed!)
}

/**
 * `benchmark against`: camera paths a second of this build over those of another one, on the benchmark scene and
 * on the demo scenes as that build has them, by `render` of each, in slices of half a second in turns. Reading the
 * scene and compiling count.
 * @param tree checkout of the other build, its packages installed
 * @param only names of scenes; all of them when left out
 */
async function benchmarkAgainst(
  tree: string,
  rounds: number,
  passes: number,
  threads: number,
  only?: readonly string[],
): Promise<unknown> {
  const other = resolve(tree)
  process.once('exit', endAll)
  for (const signal of ['SIGINT', 'SIGTERM'] as const) process.once(signal, () => process.exit(1))
  for (const file of ['scripts/cli.mjs', 'demo/export.ts', 'node_modules'])
    if (!existsSync(join(other, file)))
      throw new InputError(`${tree} is no build to compare with: it has no ${file}`)
  const folder = mkdtempSync(join(tmpdir(), 'wavelume-against-'))
  const pixels = SIZE[0] * SIZE[1]
  try {
    execFileSync(process.execPath, ['scripts/bundle.mjs', 'demo/export.ts', folder], {
      cwd: other,
      stdio: 'ignore',
    })
    // both are bundled before they are timed
    for (const cwd of [process.cwd(), other])
      execFileSync(process.execPath, ['scripts/cli.mjs', 'help'], { cwd, stdio: 'ignore' })
    const scenes = {
      benchmark: await writeBenchmarkScene(folder),
      lantern: join(folder, 'skerry-lantern.scene.json'),
      hatch: join(folder, 'cormorant-hatch.scene.json'),
      stairs: join(folder, 'tidewell-stair-hall.scene.json'),
    }
    for (const name of only ?? [])
      if (!Object.hasOwn(scenes, name))
        throw new InputError(`there is no scene ${name}; known are ${Object.keys(scenes).join(', ')}`)
    const result: Record<string, unknown> = {}
    for (const [name, scene] of Object.entries(scenes)) {
      if (only && !only.includes(name)) continue
      const ours: number[] = []
      const theirs: number[] = []
      for (let round = 0; round < rounds; round++) {
        const runs = [
          start(other, scene, join(folder, 'theirs.exr'), passes, threads),
          start(process.cwd(), scene, join(folder, 'ours.exr'), passes, threads),
        ]
        // neither is always the first
        await inTurns(round % 2 ? [...runs].reverse() : runs)
        theirs.push((pixels * passes) / runs[0]!.seconds)
        ours.push((pixels * passes) / runs[1]!.seconds)
      }
      const ratios = ours.map((x, i) => x / theirs[i]!).sort((a, b) => a - b)
      const mean = ratios.reduce((a, b) => a + b) / rounds
      const spread = ratios.reduce((a, b) => a + (b - mean) ** 2, 0) / Math.max(1, rounds - 1)
      result[name] = {
        ratio: +ratios[ratios.length >> 1]!.toFixed(3),
        mean: +mean.toFixed(3),
        /** Standard error of the mean. */
        error: +Math.sqrt(spread / rounds).toFixed(3),
        ratios: ratios.map(x => +x.toFixed(3)),
        pathsPerSecond: Math.round(Math.max(...ours)),
        theirs: Math.round(Math.max(...theirs)),
      }
    }
    return { size: SIZE.join('x'), passes, threads, ...result, accept: { ratio: ACCEPT } }
  } finally {
    rmSync(folder, { recursive: true })
  }
}

export const benchmark: Benchmark = {
  options: '--tree FOLDER [--rounds N] [--passes N] [--threads N] [--scenes NAME,…]',
  run(o) {
    const tree = o.text('tree')
    if (!tree)
      throw new InputError(
        'benchmark against needs --tree FOLDER, a checkout of another build with its packages installed',
      )
    return benchmarkAgainst(
      tree,
      o.number('rounds', 3, 1, 99),
      o.number('passes', 64, 1, 4096),
      o.number('threads', 2, 1, 64),
      o.text('scenes')?.split(','),
    )
  },
}
