import type { Program } from '../core/network/compile'

/** Says what is wrong with a program. */
export function report({ faults }: Program): void {
  for (const f of faults) console.error(`${f.severity}: ${f.where}${f.input ? '.' + f.input : ''}: ${f.message}`)
}
