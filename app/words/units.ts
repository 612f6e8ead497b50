import { table } from '../../core/nodes/table'
import { D65_EFFICACY } from '../../core/colour/efficacy'

/** Units that fields show, and what one of each is in the scene's own unit. */
export const UNITS = table<Readonly<Record<string, number>>>({
  length: { nm: 1e-9, µm: 1e-6, um: 1e-6, mm: 1e-3, cm: 0.01, m: 1 },
  share: { '%': 0.01 },
  angle: { '°': 1 },
  temperature: { K: 1 },
  /** Light of a panel; watts of light of D65's colour. */
  flux: { lm: 1, W: D65_EFFICACY },
  plain: {},
})

/** Stops of a factor; −20 for none at all. */
export const evOf = (factor: number): number => (factor > 0 ? +Math.log2(factor).toFixed(2) : -20)

/**
 * Reads what was typed into a field.
 * @param shown unit of the field, taken when none is typed
 * @returns the value in the scene's unit, or undefined when it cannot be read
 */
export function readQuantity(text: string, quantity: string, shown: string): number | undefined {
  const m = /^\s*([-+]?(?:\d+[.,]?\d*|[.,]\d+)(?:e[-+]?\d+)?)\s*(\S*)\s*$/i.exec(text)
  if (!m) return undefined
  const n = Number(m[1]!.replace(',', '.'))
  const unit = m[2] || shown
  if (!Number.isFinite(n)) return undefined
  if (unit === '') return n
  const f = UNITS[quantity]?.[unit]
  return f === undefined ? undefined : n * f
}

/** Writes a value for a field, without its unit. */
export function writeQuantity(value: number, quantity: string, shown: string): string {
  const v = value / (UNITS[quantity]?.[shown] ?? 1)
  return String(+v.toPrecision(4))
}
