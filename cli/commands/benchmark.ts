import { benchmarks } from '../benchmarks'
import type { Command } from '../command'
import { InputError } from '../options'

const usage = Object.entries(benchmarks).map(([name, b]) => `wavelume benchmark ${name} ${b.options}`.trim())

/** `wavelume benchmark NAME`: figures of one run; bars are read from their ratios. */
export const command: Command = {
  usage: usage.join('\n'),
  async run(o) {
    const name = o.words[0] ?? ''
    if (!Object.hasOwn(benchmarks, name))
      throw new InputError(`there is no benchmark ${name}; known are ${Object.keys(benchmarks).join(', ')}`)
    return benchmarks[name]!.run(o)
  },
}
