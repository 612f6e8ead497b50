import type { Options, Takes } from './options'

/** A command: a file in `commands/` and a line in `commands/index.ts`. */
export interface Command {
  /** How it is called, as `help` prints it. */
  usage: string
  /** What it takes. @param words that it is given, where that depends on the first */
  takes(words: readonly string[]): Takes
  /**
   * Runs it. What it gives is printed: by lines, or as one JSON document with `--json`.
   * @throws InputError for wrong use or input
   */
  run(options: Options): unknown
}

/** A benchmark: a file in `benchmarks/` and a line in `benchmarks/index.ts`. */
export interface Benchmark {
  /** Options that it takes, as `help` prints them, each followed by its value; empty for none. */
  options: string
  run(options: Options): unknown
}
