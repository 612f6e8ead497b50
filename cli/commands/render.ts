import { writeFileSync } from 'node:fs'
import { cpus } from 'node:os'
import { AOVS, LAYER_AOVS, tilePasses } from '../../core/render/film'
import { loadScene, SCENE_OPTIONS } from '../load-scene'
import { MOST_BOUNCES, USUAL_BOUNCES } from '../../core/scene/bounces'
import { InputError, OUTPUT, type Options, VALUE, checkOutput, parseSize } from '../options'
import { pictureFile } from '../picture-file'
import { renderOnThreads } from '../pool'
import type { Command } from '../command'

/** "16" → [0, 16); "17-32" → [16, 32). */
function parsePasses(text: string): [number, number] {
  const m = /^(\d+)(?:-(\d+))?$/.exec(text)
  const from = m?.[2] ? +m[1]! - 1 : 0
  const to = +(m?.[2] ?? m?.[1] ?? 0)
  if (!m || from < 0 || to <= from || to > 65536)
    throw new InputError(`passes are written like 64 or 17-32, not "${text}"`)
  return [from, to]
}

/** `wavelume render`. */
async function render(o: Options): Promise<unknown> {
  const file = o.words[0]
  const out = o.text('output')
  if (!file || !out) throw new InputError('render needs a scene and -o out.exr')
  checkOutput(out, ['.exr'])
  const [width, height] = parseSize(o.text('size') ?? '640x400')
  const [from, to] = parsePasses(o.text('passes') ?? '64')
  const aov = o.text('aov')?.split(',').filter(Boolean) ?? []
  const known = [...Object.keys(AOVS), ...LAYER_AOVS] as string[]
  for (const a of aov)
    if (!known.includes(a)) throw new InputError(`there is no AOV ${a}; known are ${known.join(', ')}`)
  const noise = o.text('noise') === undefined ? undefined : o.number('noise', 0.02, 0.0005, 1)
  if (noise !== undefined && from > 0)
    throw new InputError(
      '--noise decides the passes by itself: it goes with --passes N, the most there may be, not with A-B',
    )
  const seed = o.number('seed', 0, -2147483648, 2147483647)
  const { world, camera, documents, lights } = await loadScene(file, o, to - from >= 16)
  const limit = o.text('max-bounces')
  if (limit !== undefined)
    world.maxOpaque = world.maxSpecular = o.number('max-bounces', USUAL_BOUNCES, 0, MOST_BOUNCES)
  if (o.has('clamp')) world.clamp = o.number('clamp', 0, 0, 1e6)
  const r = await renderOnThreads(world, camera(width, height), {
    width,
    height,
    from,
    to,
    seed,
    aov,
    noise,
    threads: o.number('threads', Math.max(1, cpus().length), 1, 64),
  })
  writeFileSync(
    out,
    pictureFile(r.film, {
      documents,
      lights,
      seed,
      passes: noise === undefined ? to - from : tile => tilePasses(r.film, tile, 1),
      says: noise === undefined ? `${from + 1}-${to}` : `to a noise of ${noise}, at most ${to}`,
      samples: aov.includes('samples'),
      clamp: world.clamp,
      cut: r.cut,
    }),
  )
  if (r.cut)
    console.error(`note: ${r.cut} of ${r.paths} paths were ended by the most bounces there may be (--max-bounces)`)
  if (r.lost) console.error(`warning: ${r.lost} samples were not numbers and count as black`)
  return {
    seconds: r.seconds,
    paths: r.paths,
    rays: r.rays,
    cut: r.cut,
    width,
    height,
    passes: noise === undefined ? to - from : +(r.paths / width / height).toFixed(2),
  }
}

export const command: Command = {
  usage: `wavelume render SCENE -o out.exr [--size 640x400] [--passes N|A-B] [--seed N] [--threads N]
                [--lights NAME] [--camera NAME] [--materials F.mtlx] [--assign PART=MATERIAL]
                [--environment F|uniform:L] [--aov albedo,normal,…,lights,lobes] [--noise 0.02]
                [--max-bounces N] [--clamp RADIANCE] [--unit mm] [--time SECONDS]
                [--map-memory MIB] [--json]`,
  takes: () => ({
    words: 1,
    options: {
      ...SCENE_OPTIONS,
      'output': OUTPUT,
      'size': VALUE,
      'passes': VALUE,
      'seed': VALUE,
      'threads': VALUE,
      'aov': VALUE,
      'noise': VALUE,
      'max-bounces': VALUE,
      'clamp': VALUE,
    },
  }),
  run: render,
}
