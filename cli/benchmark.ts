import { benchmarkAgainst } from './benchmark-against'
import { benchmarkBuild } from './benchmark-build'
import { benchmarkCards } from './benchmark-cards'
import { benchmarkChroma } from './benchmark-chroma'
import { benchmarkCopies } from './benchmark-copies'
import { benchmarkDenoise } from './benchmark-denoise'
import { benchmarkEfficiency } from './benchmark-efficiency'
import { benchmarkFuzz } from './benchmark-fuzz'
import { benchmarkMemory } from './benchmark-memory'
import { benchmarkNetwork } from './benchmark-network'
import { benchmarkPaths } from './benchmark-paths'
import { benchmarkPreview } from './benchmark-preview'
import { benchmarkRays } from './benchmark-rays'
import { benchmarkScale } from './benchmark-scale'
import { benchmarkThreads } from './benchmark-threads'
import { InputError, type Options } from './options'

/** `wavelume benchmark NAME`: figures of one run; bars are read from their ratios. */
export async function benchmark(o: Options): Promise<unknown> {
  switch (o.words[0]) {
    case 'rays': {
      const mesh = o.text('mesh')
      const rays = o.text('rays')
      if (!mesh || !rays) throw new InputError('benchmark rays needs --mesh F.ply and --rays F.bin')
      return benchmarkRays(mesh, rays)
    }
    case 'paths':
      return benchmarkPaths(o.number('threads', 2, 1, 64), o.number('passes', 8, 1, 1024))
    case 'against': {
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
      )
    }
    case 'build':
      return benchmarkBuild(
        o.number('triangles', 2e6, 1e5, 2e7),
        o.number('threads', 2, 1, 16),
        o.number('rounds', 5, 1, 99),
      )
    case 'cards':
      return benchmarkCards()
    case 'copies':
      return benchmarkCopies(o.number('triangles', 8000, 1000, 1e7), o.number('copies', 200, 2, 60000))
    case 'memory':
      return benchmarkMemory(o.number('minutes', 15, 1, 600))
    case 'denoise':
      return benchmarkDenoise()
    case 'network':
      return benchmarkNetwork()
    case 'efficiency':
      return benchmarkEfficiency()
    case 'chroma':
      return benchmarkChroma()
    case 'fuzz':
      return benchmarkFuzz(o.number('samples', 1e8, 1000, 1e11), o.number('seed', 1, 1, 2 ** 31 - 1))
    case 'scale':
      return benchmarkScale(o.number('triangles', 8e6, 1e4, 1e8))
    case 'threads':
      return benchmarkThreads()
    case 'preview':
      return benchmarkPreview()
    default:
      throw new InputError(`there is no benchmark ${o.words[0] ?? ''}`)
  }
}
