import { benchmarks } from '../benchmarks'
import type { Command } from '../command'
import { InputError, VALUE } from '../options'

const usage = Object.entries(benchmarks).map(([name, b]) => `wavelume benchmark ${name} ${b.options}`.trim())

/** `wavelume benchmark NAME`: figures of one run; bars are read from their ratios. */
export const command: Command = {
  usage: usage.join('\n'),
  takes([name = '']) {
    const known = Object.hasOwn(benchmarks, name) ? benchmarks[name]!.options : ''
    const options = [...known.matchAll(/--([a-z-]+)/g)].map(m => [m[1]!, VALUE] as const)
    return { words: 1, options: Object.fromEntries(options) }
  },
  async run(o) {
    const name = o.words[0] ?? ''
    if (!Object.hasOwn(benchmarks, name))
      throw new InputError(`there is no benchmark ${name}; known are ${Object.keys(benchmarks).join(', ')}`)
    return benchmarks[name]!.run(o)
  },
}
