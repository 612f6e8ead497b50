/** Faces between a glass and what surrounds it, as networks ask for them. */
import { setInterior } from './inside'
import { pushGlass, pushMeasuredGlass } from './lobes/glass'
import { pushSheet } from './lobes/sheet'
import { now } from './memory'

/** Says that the part has walls without thickness, by a number above a half. */
export function setThin(thin: number): void {
  now.thin = thin > 0.5
  if (now.thin) now.outside = true
}

/** Lobes that were pushed so far. */
export const lobesSoFar = (): number => now.lobes

/** Face of a glass of the index that was set, or both faces of a thin wall. */
export function pushInterface(layer: number, r: number, g: number, b: number): void {
  if (now.thin) pushSheet(layer, r, g, b)
  else pushGlass(layer, r, g, b, 0)
}

/**
 * Face of a measured glass.
 * @param spreads above a half where its index depends on the wavelength
 * @param depth at which white light has the colour, metres; 0: the face is coloured instead
 */
export function pushGlassBody(
  layer: number,
  table: number,
  spreads: number,
  r: number,
  g: number,
  b: number,
  depth: number,
): void {
  const tints = !(depth > 0)
  const tr = tints ? r : 1
  const tg = tints ? g : 1
  const tb = tints ? b : 1
  if (spreads > 0.5) pushMeasuredGlass(layer, table, tr, tg, tb)
  else pushGlass(layer, tr, tg, tb, 0)
  if (!tints) setInterior(r, g, b, depth)
}
