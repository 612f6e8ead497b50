import { table } from './table'

/** Number of components of a value type; closures are not listed. */
export const COMPONENTS = table<number>({
  float: 1,
  integer: 1,
  boolean: 1,
  vector2: 2,
  vector3: 3,
  vector4: 4,
  color3: 3,
  color4: 4,
})

/** The type of displacements, which are computed as three numbers: along tangent, bitangent and normal, metres. */
export const DISPLACEMENT = 'displacementshader'

/** How many numbers a node of a type gives; 1 where the type is none of numbers. */
export const numbersOf = (type: string): number => (type === DISPLACEMENT ? 3 : (COMPONENTS[type] ?? 1))

/** Types that describe light scattering instead of numbers. */
export const CLOSURES: ReadonlySet<string> = new Set(['surfaceshader', 'BSDF', 'EDF', 'VDF', 'material'])

export const isValueType = (type: string): boolean => type in COMPONENTS

/**
 * Parses the value of an attribute.
 * @returns one number a component; undefined when the text is not such a value
 */
export function parseValue(type: string, text: string): number[] | undefined {
  if (type === 'boolean') return text.trim() === 'true' ? [1] : text.trim() === 'false' ? [0] : undefined
  const size = COMPONENTS[type]
  if (size === undefined) return undefined
  const numbers = text.split(',').map(t => (t.trim() === '' ? NaN : Number(t)))
  if (numbers.length !== size || numbers.some(n => !Number.isFinite(n))) return undefined
  return numbers
}

/** Writes numbers as an attribute's value. */
export function formatValue(type: string, numbers: readonly number[]): string {
  if (type === 'boolean') return numbers[0] ? 'true' : 'false'
  return numbers.map(n => String(+n.toPrecision(9))).join(', ')
}

/** Lengths of the standard's unit definitions, metres. */
const METRES = table<number>({
  nanometer: 1e-9,
  micron: 1e-6,
  micrometer: 1e-6,
  millimeter: 1e-3,
  centimeter: 0.01,
  meter: 1,
  kilometer: 1000,
  inch: 0.0254,
  foot: 0.3048,
  yard: 0.9144,
  mile: 1609.344,
})

/**
 * Factor from a unit of the standard to the scene's (metres for distances, degrees for angles).
 * @returns 1 for no unit, undefined for an unknown one
 */
export function unitScale(unit: string | undefined): number | undefined {
  if (!unit) return 1
  if (unit === 'degree') return 1
  if (unit === 'radian') return 180 / Math.PI
  return METRES[unit]
}

/** What a wire between two types needs: nothing, a named node in between, or it cannot be. */
export function wireBetween(from: string, to: string): 'same' | 'convert' | 'extract' | 'impossible' {
  if (from === to) return 'same'
  const a = COMPONENTS[from]
  const b = COMPONENTS[to]
  if (!a || !b) return 'impossible'
  if (b === 1 && a > 1 && to === 'float') return 'extract'
  if ((from === 'vector2' && to.startsWith('vector')) || from.slice(-1) === to.slice(-1) || a === 1)
    return to === 'integer' || to === 'boolean' ? 'impossible' : 'convert'
  return (from === 'color4' && to === 'color3') ||
    (from === 'color3' && to === 'color4') ||
    ((from === 'vector4' || from === 'vector3') && to.startsWith('vector'))
    ? 'convert'
    : 'impossible'
}
