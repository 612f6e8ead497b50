import { table } from '../core/nodes/table'

/** Wrong use of the command or wrong input: printed as one line, exit code 2. */
export class InputError extends Error {}

/** Parsed words of a command: positional ones and `--name value` pairs. */
export interface Options {
  words: string[]
  has(name: string): boolean
  text(name: string): string | undefined
  all(name: string): string[]
  /** Number within bounds, or the default. */
  number(name: string, fallback: number, low?: number, high?: number): number
}

/** @param flags names that take no value */
export function parseOptions(args: string[], flags: string[] = ['json', 'strict', 'once']): Options {
  const words: string[] = []
  const named = new Map<string, string[]>()
  for (let i = 0; i < args.length; i++) {
    const a = args[i]!
    if (!a.startsWith('-') || a === '-') {
      words.push(a)
      continue
    }
    const name = a.replace(/^--?/, '')
    const [key, inline] = name.includes('=')
      ? [name.slice(0, name.indexOf('=')), name.slice(name.indexOf('=') + 1)]
      : [name, undefined]
    if (flags.includes(key!)) named.set(key!, ['true'])
    else {
      const v = inline ?? args[++i]
      if (v === undefined) throw new InputError(`--${key} needs a value`)
      named.set(key!, [...(named.get(key!) ?? []), v])
    }
  }
  return {
    words,
    has: name => named.has(name),
    text: name => named.get(name)?.at(-1),
    all: name => named.get(name) ?? [],
    number(name, fallback, low = -Infinity, high = Infinity) {
      const t = named.get(name)?.at(-1)
      if (t === undefined) return fallback
      const n = Number(t)
      if (!Number.isFinite(n) || n < low || n > high)
        throw new InputError(
          `--${name} must be a number${
            low > -Infinity ? ` from ${low}` : ''
          }${high < Infinity ? ` to ${high}` : ''}, not "${t}"`,
        )
      return n
    },
  }
}

/** "640x400" → [640, 400]. */
export function parseSize(text: string): [number, number] {
  const m = /^(\d{1,5})x(\d{1,5})$/.exec(text)
  if (!m || +m[1]! < 1 || +m[2]! < 1 || +m[1]! * +m[2]! > 16384 * 16384)
    throw new InputError(`a size is written like 640x400, not "${text}"`)
  return [+m[1]!, +m[2]!]
}

const METRES = table<number>({ nm: 1e-9, µm: 1e-6, um: 1e-6, mm: 1e-3, cm: 0.01, m: 1, km: 1000 })

/** A length with or without a unit, in metres. */
export function parseLength(text: string): number {
  const m = /^\s*([-+]?[\d.]+(?:e[-+]?\d+)?)\s*(nm|µm|um|mm|cm|m|km)?\s*$/i.exec(text)
  if (!m || !Number.isFinite(+m[1]!)) throw new InputError(`a length is written like 2mm, not "${text}"`)
  return +m[1]! * (m[2] ? METRES[m[2]]! : 1)
}

/** Factor of `--unit`. */
export function unitFactor(text: string | undefined): number {
  if (text === undefined) return 1
  const f = METRES[text]
  if (!f) throw new InputError(`a unit is one of ${Object.keys(METRES).join(', ')}, not "${text}"`)
  return f
}

/** "0,30,60" or "400:700:10" (ends included). */
export function parseNumbers(text: string): number[] {
  if (text.includes(':')) {
    const [a, b, step] = text.split(':').map(Number)
    if (!(step! > 0) || !(b! >= a!)) throw new InputError(`a range is written like 400:700:10, not "${text}"`)
    return Array.from({ length: Math.floor((b! - a!) / step! + 1e-9) + 1 }, (_, i) => a! + i * step!)
  }
  const list = text.split(',').map(Number)
  if (list.some(n => !Number.isFinite(n))) throw new InputError(`numbers are written like 0,30,60, not "${text}"`)
  return list
}
