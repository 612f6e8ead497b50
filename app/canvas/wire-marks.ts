import type { CanvasWire } from './arrange'
import type { Path } from './route'

/** Between two marks, and half the length of one, pixels. */
const APART = 4
const HALF = 4
/** How far a slash leans; the rungs of a ladder stand upright. */
const LEAN = 3
const RUNGS = 5

/** Marks across a wire as SVG, in the middle of its longest stretch: a slash a component, or the rungs of a ladder. */
export function marksText(path: Path, { slashes, surface }: CanvasWire): string {
  const length = (i: number) => Math.hypot(path[i]![0] - path[i - 1]![0], path[i]![1] - path[i - 1]![1])
  let at = 1
  for (let i = 2; i < path.length; i++) if (length(i) > length(at)) at = i
  const [ax, ay] = path[at - 1]!
  const [bx, by] = path[at]!
  const x = (ax + bx) / 2
  const y = (ay + by) / 2
  const l = length(at) || 1
  const c = (bx - ax) / l
  const s = (by - ay) / l
  const n = surface ? RUNGS : slashes
  const lean = surface ? 0 : LEAN
  return Array.from({ length: n }, (_, i) => {
    const d = (i - (n - 1) / 2) * APART
    const px = x + d * c
    const py = y + d * s
    const from = `${px - s * HALF + c * lean} ${py + c * HALF + s * lean}`
    return `M ${from} L ${px + s * HALF - c * lean} ${py - c * HALF - s * lean}`
  }).join(' ')
}
