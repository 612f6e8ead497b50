import { decodeSRGB, encodeSRGB } from '../../core/colour/rgb'

/** Digits that are written of a component. */
const DIGITS = 3

/** A linear Rec.709 colour as six digits of sRGB (IEC 61966-2-1); what no display shows is clipped. */
export const writeHex = (linear: readonly number[]): string =>
  '#' +
  linear
    .slice(0, 3)
    .map(x =>
      Math.round(255 * encodeSRGB(Math.min(1, Math.max(0, x))))
        .toString(16)
        .padStart(2, '0'),
    )
    .join('')

/** A linear Rec.709 colour with its space, as a field shows it. */
export const writeLinear = (linear: readonly number[]): string =>
  `linear ${linear
    .slice(0, 3)
    .map(x => +x.toPrecision(DIGITS))
    .join(' ')}`

const fromBytes = (bytes: readonly number[]): number[] => bytes.map(b => +decodeSRGB(b / 255).toPrecision(5))
const HEX = /^#?([0-9a-f]{3}|[0-9a-f]{6})$/i
const SPACED = /^(?:(linear|srgb|rgb)\s*\(?\s*)?([^a-z()]*(?:e[-+]?\d+)?[^a-z()]*)\)?$/i

/**
 * Reads a colour that was typed or pasted: `#c83010`, `#c31`, `srgb 200 48 16` (0..255, or 0..1 where all are), three
 * linear numbers with or without `linear` before them.
 * @returns linear Rec.709, or why it cannot be read, in words
 */
export function readColour(text: string): number[] | string {
  const t = text.trim()
  const hex = HEX.exec(t)?.[1]
  if (hex !== undefined) {
    const six = hex.length === 3 ? hex.replace(/./g, d => d + d) : hex
    return fromBytes([0, 2, 4].map(i => parseInt(six.slice(i, i + 2), 16)))
  }
  const spaced = SPACED.exec(t)
  const numbers = (spaced?.[2] ?? '')
    .split(/[\s,;]+/)
    .filter(Boolean)
    .map(Number)
  if (!spaced || numbers.some(n => !Number.isFinite(n))) return `“${t.slice(0, 24)}” is no colour`
  if (numbers.length !== 3) return `a colour has three numbers, these are ${numbers.length}`
  if (numbers.some(n => n < 0)) return 'no part of a colour is below 0'
  if (!/rgb/i.test(spaced[1] ?? '')) return numbers
  const shares = numbers.every(n => n <= 1)
  if (!shares && numbers.some(n => n > 255)) return 'sRGB goes up to 255'
  return fromBytes(shares ? numbers.map(n => n * 255) : numbers)
}
