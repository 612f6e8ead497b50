/** Measured clear materials: index by wavelength from dispersion formulae. */
import { GRID_SIZE, GRID_START, resampleToGrid } from '../colour/grid'
import constants from './constants.json'
import { cauchyIndex, LINE_D, sellmeierIndex } from './dispersion'

interface ClearMaterial {
  name: string
  source: string
  index: (wavelength: number) => number
}

/** Index from a table of `constants.json`; beyond its ends the end value holds. */
function tabled(
  name: 'PMMA' | 'polycarbonate' | 'polystyrene' | 'yttrium aluminium garnet',
): (w: number) => number {
  const rows = constants.materials[name] as number[][]
  const n = resampleToGrid(
    rows.map(r => r[0]!),
    rows.map(r => r[1]!),
  )
  return w => {
    const at = Math.min(GRID_SIZE - 2, Math.max(0, w - GRID_START))
    const i = Math.floor(at)
    return n[i]! + (n[i + 1]! - n[i]!) * (at - i)
  }
}

const MATERIALS: readonly ClearMaterial[] = [
  {
    name: 'borosilicate crown 517/642',
    source: 'data sheet, Sellmeier',
    index: w =>
      sellmeierIndex([1.03961212, 0.231792344, 1.01046945], [0.00600069867, 0.0200179144, 103.560653], w),
  },
  {
    name: 'dense flint 785/257',
    source: 'data sheet, Sellmeier',
    index: w => sellmeierIndex([1.73759695, 0.313747346, 1.89878101], [0.013188707, 0.0623068142, 155.23629], w),
  },
  {
    name: 'fused silica',
    source: 'Malitson 1965, J. Opt. Soc. Am. 55',
    index: w =>
      sellmeierIndex([0.6961663, 0.4079426, 0.8974794], [0.0684043 ** 2, 0.1162414 ** 2, 9.896161 ** 2], w),
  },
  { name: 'PMMA', source: 'Sultanova et al. 2009, Acta Phys. Pol. A 116', index: tabled('PMMA') },
  {
    name: 'polycarbonate',
    source: 'Sultanova et al. 2009, Acta Phys. Pol. A 116',
    index: tabled('polycarbonate'),
  },
  { name: 'polystyrene', source: 'Sultanova et al. 2009, Acta Phys. Pol. A 116', index: tabled('polystyrene') },
  {
    name: 'yttrium aluminium garnet',
    source: 'published Sellmeier fit',
    index: tabled('yttrium aluminium garnet'),
  },
  {
    name: 'sapphire',
    source: 'Malitson 1962, J. Opt. Soc. Am. 52, ordinary ray; from memory',
    index: w =>
      sellmeierIndex([1.4313493, 0.65054713, 5.3414021], [0.0726631 ** 2, 0.1193242 ** 2, 18.028251 ** 2], w),
  },
  {
    name: 'diamond',
    source: 'Peter 1923, Z. Phys. 15; from memory',
    index: w => sellmeierIndex([0.3306, 4.3356, 0], [0.175 ** 2, 0.106 ** 2, 0], w),
  },
  {
    name: 'water',
    source: 'Cauchy fit to n_d 1.3330, V_d 55.8 of water at 20 °C; from memory',
    index: w => cauchyIndex(1.333, 3123, w),
  },
]

export const GLASS_NAMES: readonly string[] = MATERIALS.map(m => m.name)
export const GLASS_SOURCES: readonly string[] = MATERIALS.map(m => m.source)
/** n of glass g at grid index i is `glassN[g][i]`. */
export const glassN: readonly Float64Array[] = MATERIALS.map(m =>
  Float64Array.from({ length: GRID_SIZE }, (_, i) => m.index(GRID_START + i)),
)
/** n_d of each. */
export const glassIndex: Float64Array = Float64Array.from(MATERIALS, m => m.index(LINE_D))
