import { table } from '../../core/nodes/table'

/** What a part gives at each of its points where nothing is wired: in a row, and on a card, which has less room. */
export const PART_GIVES = table<{ long: string; short: string }>({
  UV0: { long: 'UV of the part', short: 'UV' },
  Pobject: { long: 'position on the part', short: 'position' },
  Pworld: { long: 'position', short: 'position' },
  Nworld: { long: 'normal of the part', short: 'normal' },
  Tworld: { long: 'tangent of the part', short: 'tangent' },
  Bworld: { long: 'bitangent of the part', short: '' },
  Vworld: { long: 'direction of view', short: '' },
})
