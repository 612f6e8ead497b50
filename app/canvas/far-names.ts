/** Which names stand on a network that is seen from afar: as many as do not lie over each other. */
export interface FarName {
  id: string
  text: string
  /** Left end and upper edge of the name on the canvas, pixels. */
  x: number
  y: number
}
/** Measures of a name on the screen, pixels: a letter, and the line. */
const LETTER = 6.2
export const LINE = 14

/**
 * Names that are shown: each that lies over none before it.
 * @param names the ones that matter most first
 * @param zoom of the canvas
 */
export function farNames(names: readonly FarName[], zoom: number): Set<string> {
  const shown: { x: number; y: number; right: number }[] = []
  const ids = new Set<string>()
  for (const { id, text, x: cx, y: cy } of names) {
    const x = cx * zoom
    const y = cy * zoom
    const right = x + text.length * LETTER
    if (shown.some(s => x < s.right && s.x < right && Math.abs(s.y - y) < LINE)) continue
    shown.push({ x, y, right })
    ids.add(id)
  }
  return ids
}
