import { createHash } from 'node:crypto'
import { writeFileSync } from 'node:fs'
import { cpus } from 'node:os'
import { writeExr } from '../core/formats/exr'
import { AOVS, meanChannels } from '../core/render/film'
import { loadScene } from './load-scene'
import { InputError, parseSize, type Options } from './options'
import { renderOnThreads } from './pool'

/** "16" → [0, 16); "17-32" → [16, 32). */
function parsePasses(text: string): [number, number] {
  const m = /^(\d+)(?:-(\d+))?$/.exec(text)
  const from = m?.[2] ? +m[1]! - 1 : 0, to = +(m?.[2] ?? m?.[1] ?? 0)
  if (!m || from < 0 || to <= from || to > 65536) throw new InputError(`passes are written like 64 or 17-32, not "${text}"`)
  return [from, to]
}

/** `wavelume render`. */
export async function render(o: Options): Promise<unknown> {
  const file = o.words[0], out = o.text('o')
  if (!file || !out) throw new InputError('render needs a scene and -o out.exr')
  const [width, height] = parseSize(o.text('size') ?? '640x400'), [from, to] = parsePasses(o.text('passes') ?? '64')
  const aov = o.text('aov')?.split(',').filter(Boolean) ?? []
  for (const a of aov) if (!(a in AOVS)) throw new InputError(`there is no AOV ${a}; known are ${Object.keys(AOVS).join(', ')}`)
  const seed = o.number('seed', 0, -2147483648, 2147483647), { world, camera, documents } = await loadScene(file, o, to - from >= 16)
  const limit = o.text('max-bounces')
  if (limit !== undefined) world.maxOpaque = world.maxSpecular = o.number('max-bounces', 8, 0, 128)
  const r = await renderOnThreads(world, camera(width, height), { width, height, from, to, seed, aov, threads: o.number('threads', Math.max(1, cpus().length), 1, 64) })
  writeFileSync(out, writeExr({
    width, height, channels: meanChannels(r.film, to - from),
    attributes: { 'wavelume:documents': createHash('sha256').update(JSON.stringify(documents)).digest('hex'), 'wavelume:seed': String(seed), 'wavelume:passes': `${from + 1}-${to}`, 'wavelume:exposure': '0', 'wavelume:clamps': 'none', 'wavelume:filter': 'tent, 2 pixels wide' },
  }))
  if (r.lost) console.error(`warning: ${r.lost} samples were not numbers and count as black`)
  return { seconds: r.seconds, paths: r.paths, rays: r.rays, width, height, passes: to - from }
}
