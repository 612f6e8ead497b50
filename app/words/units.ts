import { table } from '../../core/nodes/table'
import { D65_EFFICACY } from '../../core/colour/efficacy'

/** Units that fields show, and what one of each is in the scene's own unit. */
export const UNITS = table<Readonly<Record<string, number>>>({
  length: { nm: 1e-9, µm: 1e-6, μm: 1e-6, um: 1e-6, mm: 1e-3, cm: 0.01, m: 1 },
  share: { '%': 0.01 },
  angle: { '°': 1 },
  temperature: { K: 1 },
  /** Light of a panel; watts of light of D65's colour. */
  flux: { lm: 1, W: D65_EFFICACY },
  plain: {},
})

/** Stops of a factor; −20 for none at all. */
export const evOf = (factor: number): number => (factor > 0 ? +Math.log2(factor).toFixed(2) : -20)

const NUMBER = String.raw`(?:\d+[.,]?\d*|[.,]\d+)(?:e[-+]?\d+)?`
const RELATIVE = new RegExp(String.raw`^\s*(?:([*×/])\s*(${NUMBER})|([-+])\s*(${NUMBER})\s*%)\s*$`, 'i')
const PLAIN = new RegExp(String.raw`^\s*([-+]?${NUMBER})\s*(\S*)\s*$`, 'i')
const numberOf = (text: string) => Number(text.replace(',', '.'))

/**
 * Reads what was typed into a field: a number with or without a unit, or a change of what it holds: `*1.2`, `/2`,
 * `+5 %`, `-10 %`.
 * @param shown unit of the field, taken when none is typed
 * @param held value of the field, in the scene's unit
 * @returns the value in the scene's unit, or why it cannot be read, in words
 */
export function readQuantity(text: string, quantity: string, shown: string, held = 0): number | string {
  const change = RELATIVE.exec(text)
  if (change) {
    const [, by, factor, sign, percent] = change
    if (by === '/' && numberOf(factor!) === 0) return 'nothing is divided by 0'
    if (by) return by === '/' ? held / numberOf(factor!) : held * numberOf(factor!)
    return held * (1 + ((sign === '-' ? -1 : 1) * numberOf(percent!)) / 100)
  }
  const m = PLAIN.exec(text)
  if (!m) return `“${text.trim().slice(0, 24)}” is no number`
  const n = numberOf(m[1]!)
  const unit = m[2] || shown
  if (!Number.isFinite(n)) return 'this number is too large'
  if (unit === '') return n
  const units = UNITS[quantity] ?? {}
  const f = units[unit]
  if (f !== undefined) return n * f
  // a plain number may be said in hundredths
  if (unit === '%' && quantity === 'plain') return n / 100
  const known = Object.keys(units).filter(u => !['um', 'μm'].includes(u))
  return known.length
    ? `“${unit.slice(0, 12)}” is none of its units: ${known.join(', ')}`
    : `it has no unit: a number alone, or in %`
}

/** Writes a value for a field, without its unit. */
export function writeQuantity(value: number, quantity: string, shown: string): string {
  const v = value / (UNITS[quantity]?.[shown] ?? 1)
  return String(+v.toPrecision(4))
}
