import { FLAG, VALUE } from '../options'
import type { Command } from '../command'

export const command: Command = {
  usage: `wavelume worker [--threads N] [--keep SECONDS] [--once]
                computes frames from the queue of the database in WAVELUME_DATABASE`,
  takes: () => ({ words: 0, options: { threads: VALUE, keep: VALUE, once: FLAG } }),
  // fetched when it is asked for: nothing else of the command needs the database
  run: async o => (await import('../worker')).worker(o),
}
