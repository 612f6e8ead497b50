import { accessSync, constants, existsSync, statSync } from 'node:fs'
import { dirname, resolve } from 'node:path'
import { parseArgs } from 'node:util'
import { table } from '../core/nodes/table'

/** Words of an error, whatever was thrown. */
export const messageOf = (e: unknown): string => (e instanceof Error ? e.message : String(e))

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

/** What a command takes: its options, and how many words beside them. */
export interface Takes {
  words: number
  options: Record<string, Option>
}
export type Option = { type: 'string'; multiple?: true; short?: string } | { type: 'boolean' }
/** An option with a value, one that may be given several times, one without a value, and where results are written. */
export const VALUE: Option = { type: 'string' }
export const VALUES: Option = { type: 'string', multiple: true }
export const FLAG: Option = { type: 'boolean' }
export const OUTPUT: Option = { type: 'string', short: 'o' }
/** Options that every command takes. */
const COMMON: Takes['options'] = { json: FLAG, debug: FLAG }

/** A value that begins with a minus goes with its option: `--seed -3` is no option named 3. */
const withNegatives = (args: string[], options: Takes['options']): string[] =>
  args.reduce<string[]>((all, a) => {
    const option = /^--([a-z-]+)$/.exec(all.at(-1) ?? '')?.[1]
    const takesValue = option !== undefined && Object.hasOwn(options, option) && options[option]!.type === 'string'
    if (takesValue && /^-[\d.]/.test(a)) all[all.length - 1] += `=${a}`
    else all.push(a)
    return all
  }, [])

/**
 * Reads the words of a command by Node's own `parseArgs`, strictly.
 * @throws InputError for options that the command does not take, values that are missing, words too many
 */
export function parseOptions(args: string[], takes: Takes): Options {
  const options = { ...COMMON, ...takes.options }
  let read
  try {
    read = parseArgs({ args: withNegatives(args, options), options, allowPositionals: true, strict: true })
  } catch (e) {
    const says = messageOf(e).split(/\. |\n/, 1)[0]!
    const known = Object.keys(options).map(o => `--${o}`)
    throw new InputError(`${says}; there are ${known.join(', ')}`)
  }
  const { values, positionals: words } = read
  if (words.length > takes.words) throw new InputError(`"${words[takes.words]}" is one word too many`)
  const all = (name: string) => [values[name] ?? []].flat().map(String)
  return {
    words,
    has: name => values[name] !== undefined,
    text: name => all(name).at(-1),
    all,
    number(name, fallback, low = -Infinity, high = Infinity) {
      const t = all(name).at(-1)
      if (t === undefined) return fallback
      const n = t.trim() === '' ? NaN : Number(t)
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

/**
 * Where a result is to be written, looked at before the work begins.
 * @param endings that it may have, in small letters with their dot
 * @throws InputError when it has another, or lies in no folder that can be written to
 */
export function checkOutput(file: string, endings: readonly string[]): string {
  if (!endings.some(e => file.toLowerCase().endsWith(e)))
    throw new InputError(`${file} cannot be written: it has to end in ${endings.join(' or ')}`)
  const folder = dirname(resolve(file))
  try {
    accessSync(folder, constants.W_OK)
  } catch {
    throw new InputError(
      `${file} cannot be written: ${existsSync(folder) ? 'nothing may be written to' : 'there is no'} folder ${folder}`,
    )
  }
  if (existsSync(file) && statSync(file).isDirectory()) throw new InputError(`${file} is a folder`)
  return file
}

/** A number of the environment. @throws InputError when it is none */
export function fromEnvironment(name: string, fallback: number): number {
  const text = process.env[name]
  if (!text) return fallback
  const n = Number(text)
  if (!(n > 0)) throw new InputError(`${name} must be a number above 0, not "${text}"`)
  return n
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
  const m = /^\s*([-+]?[\d.]+(?:[eE][-+]?\d+)?)\s*(nm|µm|um|mm|cm|m|km)?\s*$/.exec(text)
  if (!m || !Number.isFinite(+m[1]!)) throw new InputError(`a length is written like 2mm, not "${text}"`)
  return +m[1]! * (m[2] ? METRES[m[2]]! : 1)
}

/** A length of an option, above 0, metres; undefined where it is not given. */
export function lengthOf(o: Options, name: string): number | undefined {
  const text = o.text(name)
  if (text === undefined) return undefined
  const metres = parseLength(text)
  if (!(metres > 0)) throw new InputError(`--${name} must be above 0`)
  return metres
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
