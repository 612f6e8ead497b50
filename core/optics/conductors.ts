import constants from './constants.json'
import { resampleToGrid } from '../colour/grid'
import { reflectanceToXYZ } from '../colour/observer'
import { transform, xyzToRec709 } from '../colour/rgb'
import { fresnelConductor } from './fresnel'

/**
 * Metals with tabulated n and k; the number of a metal in the renderer is its place in this list. Source: Rakić et
 * al. 1998, Lorentz–Drude fits.
 */
export const CONDUCTOR_NAMES = [
  'silver',
  'gold',
  'copper',
  'aluminium',
  'beryllium',
  'chromium',
  'nickel',
  'palladium',
  'platinum',
  'titanium',
  'tungsten',
  'iron',
]
/** Where the numbers of each come from. */
export const CONDUCTOR_SOURCES: readonly string[] = CONDUCTOR_NAMES.map(name =>
  name === 'iron'
    ? 'Johnson & Christy 1974, Phys. Rev. B 9; from memory'
    : 'Rakić et al. 1998, Appl. Opt. 37, Lorentz–Drude fit',
)

type Row = [number, number, number]
const materials = constants.materials as unknown as Record<string, Row[]>

/**
 * Iron is absent from Rakić et al. Johnson & Christy 1974 (Phys. Rev. B 9, 5056), from memory, at a few
 * wavelengths: nm, n, k. Stands for the steel of the demo scenes; low-alloy steel differs by some per cent.
 */
const iron: Row[] = [
  [380, 2.02, 2.61],
  [450, 2.45, 2.9],
  [500, 2.74, 2.88],
  [550, 2.92, 2.93],
  [600, 2.88, 3.02],
  [650, 2.91, 3.1],
  [700, 2.91, 3.26],
  [780, 2.94, 3.46],
]

const tables = CONDUCTOR_NAMES.map(name => {
  const rows = name === 'iron' ? iron : materials[name]!
  const nm = rows.map(r => r[0])
  return {
    n: resampleToGrid(
      nm,
      rows.map(r => r[1]),
    ),
    k: resampleToGrid(
      nm,
      rows.map(r => r[2]),
    ),
  }
})

/** n of metal m at grid index i is `conductorN[m][i]`. */
export const conductorN: readonly Float64Array[] = tables.map(t => t.n)
export const conductorK: readonly Float64Array[] = tables.map(t => t.k)

/** Linear Rec.709 of each metal's reflectance at normal incidence under D65: three numbers a metal. */
export const conductorRGB: Float64Array = Float64Array.from(
  tables.flatMap(({ n, k }) =>
    transform(xyzToRec709, reflectanceToXYZ(n.map((x, i) => fresnelConductor(1, x, k[i]!)))),
  ),
)

/** Number of a metal by name. @returns −1 for an unknown name */
export function conductorByName(name: string): number {
  return CONDUCTOR_NAMES.indexOf(name === 'aluminum' ? 'aluminium' : name === 'steel' ? 'iron' : name)
}
