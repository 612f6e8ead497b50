import { measure as measureSurface } from '../../core/judge/measure'
import { atTime } from '../../core/network/compile'
import { instantiate } from '../../core/network/instantiate'
import { compileMaterial, texturesFor } from '../../core/world/compile-material'
import { folderOf, pictureReader, readMaterial } from '../files'
import { InputError, type Options, VALUE, parseLength, parseNumbers } from '../options'
import { report } from '../report'
import type { Command } from '../command'

/** `wavelume measure`. */
function measure(o: Options): unknown {
  const file = o.words[0]
  if (!file) throw new InputError('measure needs a MaterialX document')
  const from = o.text('from') ?? 'outside'
  if (from !== 'outside' && from !== 'inside') throw new InputError('--from is outside or inside')
  const program = atTime(compileMaterial(readMaterial(file), o.text('material')), o.number('time', 0, -1e6, 1e6))
  report(program)
  const shader = instantiate(program, texturesFor(program, pictureReader(folderOf(file))))
  const slab = o.text('slab')
  return measureSurface(shader, Float64Array.from(program.constants), {
    angles: parseNumbers(o.text('angle') ?? '0'),
    wavelengths: parseNumbers(o.text('wavelengths') ?? '400:700:10'),
    from,
    samples: o.number('samples', 1024, 1, 1e8),
    ...(slab !== undefined ? { slab: parseLength(slab) } : {}),
  })
}

export const command: Command = {
  usage: `wavelume measure FILE.mtlx [--material NAME] --angle 0,30,60 [--wavelengths 400:700:10]
                [--from outside|inside] [--samples N] [--slab 2mm] [--time SECONDS] --json`,
  takes: () => ({
    words: 1,
    options: {
      material: VALUE,
      angle: VALUE,
      wavelengths: VALUE,
      from: VALUE,
      samples: VALUE,
      slab: VALUE,
      time: VALUE,
    },
  }),
  run: measure,
}
