/** Stops work that does not come back. */
import { Script } from 'node:vm'
import type { Patience } from '../core/formats/patience'

const KEY = '__wavelumeWork'
const script = new Script(`globalThis.${KEY}()`)

/** Runs work on this thread, and throws where it takes longer. @param ms milliseconds */
export const patienceOf =
  (ms: number): Patience =>
  <T>(work: () => T): T => {
    const here = globalThis as Record<string, unknown>
    here[KEY] = work
    try {
      return script.runInThisContext({ timeout: ms }) as T
    } finally {
      delete here[KEY]
    }
  }
