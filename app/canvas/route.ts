/**
 * Routes of wires between cards: horizontal and vertical, never behind a card. A wire with one vertical stretch
 * between its ends takes the first free lane; where none is free, the shortest way over the lines beside the
 * cards, with a price for each bend (orthogonal visibility graph, Wybrow, Marriott & Stuckey 2010, "Orthogonal
 * connector routing"; ours keeps to lines beside cards, so it is short rather than shortest).
 */
export interface Box {
  id: string
  x: number
  y: number
  width: number
  height: number
}
export interface Wire {
  id: string
  source: string
  x0: number
  y0: number
  x1: number
  y1: number
  /** Boxes that enclose one of the ends: they do not bar the way. */
  within: readonly string[]
}
export type Path = [x: number, y: number][]

/** Between a wire and a card it passes. */
const CLEAR = 7
/** Straight piece at each end. */
const STUB = 12
/** Between two wires that run side by side. */
const LANE = 7
const BEND = 60

interface Lane {
  x: number
  top: number
  bottom: number
  source: string
}

/** What is found for a number, looked for once. */
function eachOnce<T>(find: (at: number) => T): (at: number) => T {
  const found = new Map<number, T>()
  return at => {
    const known = found.get(at)
    if (known !== undefined) return known
    const now = find(at)
    found.set(at, now)
    return now
  }
}

/** Boxes by the lines that they bar: what a stretch may meet is looked for once a line, not once a stretch. */
class Obstacles {
  /** Boxes across a vertical, and across a horizontal line. */
  private readonly atX: (x: number) => readonly Box[]
  private readonly atY: (y: number) => readonly Box[]
  /** Lines that keep beside the boxes. */
  readonly xs: readonly number[]
  readonly ys: readonly number[]
  constructor(boxes: readonly Box[]) {
    this.atX = eachOnce(x => boxes.filter(b => x > b.x - CLEAR && x < b.x + b.width + CLEAR))
    this.atY = eachOnce(y => boxes.filter(b => y > b.y - CLEAR && y < b.y + b.height + CLEAR))
    this.xs = [...new Set(boxes.flatMap(b => [b.x - CLEAR - 4, b.x + b.width + CLEAR + 4]))]
    this.ys = [...new Set(boxes.flatMap(b => [b.y - CLEAR - 4, b.y + b.height + CLEAR + 4]))]
  }
  /** Whether a horizontal or vertical stretch keeps clear of all boxes but those that enclose an end of its wire. */
  free(within: readonly string[], xa: number, ya: number, xb: number, yb: number): boolean {
    if (xa === xb) {
      const top = Math.min(ya, yb)
      const bottom = Math.max(ya, yb)
      return !this.atX(xa).some(
        b => bottom > b.y - CLEAR && top < b.y + b.height + CLEAR && !within.includes(b.id),
      )
    }
    const left = Math.min(xa, xb)
    const right = Math.max(xa, xb)
    return !this.atY(ya).some(b => right > b.x - CLEAR && left < b.x + b.width + CLEAR && !within.includes(b.id))
  }
}

/** Paths of all wires, from their source's handle to their target's. */
export function routeWires(wires: readonly Wire[], boxes: readonly Box[]): Map<string, Path> {
  const paths = new Map<string, Path>()
  const lanes: Lane[] = []
  const around = new Obstacles(boxes)
  const shortFirst = [...wires].sort(
    (a, b) => Math.abs(a.x1 - a.x0) + Math.abs(a.y1 - a.y0) - Math.abs(b.x1 - b.x0) - Math.abs(b.y1 - b.y0),
  )
  for (const w of shortFirst) {
    paths.set(
      w.id,
      simplified(
        oneLane(w, around, lanes) ??
          shortestWay(w, around) ?? [
            [w.x0, w.y0],
            [w.x1, w.y1],
          ],
      ),
    )
  }
  return paths
}

/** A path with one vertical stretch, in the lane nearest the target that no other source's wire uses. */
function oneLane(w: Wire, around: Obstacles, lanes: Lane[]): Path | undefined {
  const from = w.x0 + STUB
  const to = w.x1 - STUB
  const top = Math.min(w.y0, w.y1)
  const bottom = Math.max(w.y0, w.y1)
  if (from > to) return undefined
  for (let x = to; x >= from; x -= LANE) {
    if (
      lanes.some(
        l => l.source !== w.source && Math.abs(l.x - x) < LANE - 1 && l.top < bottom + 3 && l.bottom > top - 3,
      ) &&
      top !== bottom
    )
      continue
    if (
      !around.free(w.within, from, w.y0, x, w.y0) ||
      !around.free(w.within, x, w.y0, x, w.y1) ||
      !around.free(w.within, x, w.y1, to, w.y1)
    )
      continue
    lanes.push({ x, top, bottom, source: w.source })
    return [
      [w.x0, w.y0],
      [x, w.y0],
      [x, w.y1],
      [w.x1, w.y1],
    ]
  }
  return undefined
}

/** How far beyond a wire's ends a way is looked for first, pixels: few ways lead further. */
const NEAR = 700

/** The cheapest way over the lines beside the boxes and through the ends. */
function shortestWay(w: Wire, around: Obstacles): Path | undefined {
  return wayWithin(w, around, NEAR) ?? wayWithin(w, around, Infinity)
}

/** @param margin how far beyond the box about its ends the way may lead */
function wayWithin(w: Wire, around: Obstacles, margin: number): Path | undefined {
  const sx = w.x0 + STUB
  const ex = w.x1 - STUB
  const lines = (all: readonly number[], a: number, b: number) => {
    const from = Math.min(a, b) - margin
    const to = Math.max(a, b) + margin
    return Float64Array.from(new Set([a, b, ...all.filter(v => v > from && v < to)])).sort()
  }
  const xs = lines(around.xs, sx, ex)
  const ys = lines(around.ys, w.y0, w.y1)
  const nx = xs.length
  const ny = ys.length
  const goal = xs.indexOf(ex) + ys.indexOf(w.y1) * nx
  const start = xs.indexOf(sx) + ys.indexOf(w.y0) * nx
  // two states a crossing: arrived at it along x (0) or along y (1)
  const cost = new Float64Array(nx * ny * 2).fill(Infinity)
  const from = new Int32Array(nx * ny * 2).fill(-1)
  const open = new Heap()
  const ahead = (at: number) => Math.abs(xs[at % nx]! - ex) + Math.abs(ys[Math.floor(at / nx)]! - w.y1)
  cost[start * 2] = 0
  open.push(start * 2, ahead(start))
  for (let state = open.pop(); state >= 0; state = open.pop()) {
    const at = state >> 1
    const along = state & 1
    const i = at % nx
    const j = Math.floor(at / nx)
    if (at === goal) return [[w.x0, w.y0], ...pathTo(state, from, xs, ys), [w.x1, w.y1]]
    for (const [di, dj] of STEPS) {
      const i2 = i + di
      const j2 = j + dj
      if (i2 < 0 || j2 < 0 || i2 >= nx || j2 >= ny) continue
      const next = (i2 + j2 * nx) * 2 + (dj ? 1 : 0)
      const length = Math.abs(xs[i2]! - xs[i]!) + Math.abs(ys[j2]! - ys[j]!)
      // the last bend into the target's stub counts too
      const c = cost[state]! + length + (along !== (dj ? 1 : 0) ? BEND : 0) + (next >> 1 === goal && dj ? BEND : 0)
      if (c >= cost[next]! || !around.free(w.within, xs[i]!, ys[j]!, xs[i2]!, ys[j2]!)) continue
      cost[next] = c
      from[next] = state
      open.push(next, c + ahead(next >> 1))
    }
  }
  return undefined
}
/** From a crossing to those beside it. */
const STEPS = [
  [1, 0],
  [-1, 0],
  [0, 1],
  [0, -1],
] as const

function pathTo(state: number, from: Int32Array, xs: Float64Array, ys: Float64Array): Path {
  const out: Path = []
  for (let s = state; s >= 0; s = from[s]!)
    out.unshift([xs[(s >> 1) % xs.length]!, ys[Math.floor((s >> 1) / xs.length)]!])
  return out
}

/** A path without points in the middle of a straight stretch. */
function simplified(path: Path): Path {
  return path.filter((p, i) => {
    const a = path[i - 1]
    const b = path[i + 1]
    return (
      !a ||
      !b ||
      (!((a[0] === p[0] && p[0] === b[0]) || (a[1] === p[1] && p[1] === b[1])) &&
        !(a[0] === p[0] && a[1] === p[1]))
    )
  })
}

/** Binary heap of numbers by price. */
class Heap {
  private items: number[] = []
  private prices: number[] = []
  push(item: number, price: number): void {
    let i = this.items.length
    while (i > 0) {
      const up = (i - 1) >> 1
      if (this.prices[up]! <= price) break
      this.items[i] = this.items[up]!
      this.prices[i] = this.prices[up]!
      i = up
    }
    this.items[i] = item
    this.prices[i] = price
  }
  /** The cheapest; −1 when there is none. */
  pop(): number {
    if (!this.items.length) return -1
    const best = this.items[0]!
    const item = this.items.pop()!
    const price = this.prices.pop()!
    const n = this.items.length
    if (n === 0) return best
    let i = 0
    for (let down = 1; down < n; down = 2 * i + 1) {
      if (down + 1 < n && this.prices[down + 1]! < this.prices[down]!) down++
      if (this.prices[down]! >= price) break
      this.items[i] = this.items[down]!
      this.prices[i] = this.prices[down]!
      i = down
    }
    this.items[i] = item
    this.prices[i] = price
    return best
  }
}

/** A path as SVG, its corners softened so that the eye can follow one wire across another. */
export function pathText(path: Path): string {
  const R = 5
  return path
    .map(([x, y], i) => {
      const a = path[i - 1]
      const b = path[i + 1]
      if (!a) return `M ${x} ${y}`
      if (!b) return `L ${x} ${y}`
      const toward = (p: [number, number]) => {
        const d = Math.hypot(p[0] - x, p[1] - y)
        const t = Math.min(R, d / 2) / (d || 1)
        return `${+(x + (p[0] - x) * t).toFixed(1)} ${+(y + (p[1] - y) * t).toFixed(1)}`
      }
      return `L ${toward(a)} Q ${x} ${y} ${toward(b)}`
    })
    .join(' ')
}

/** Distance from a point to a path. */
export function distanceTo(path: Path, x: number, y: number): number {
  let best = Infinity
  for (let i = 1; i < path.length; i++) {
    const [ax, ay] = path[i - 1]!
    const [bx, by] = path[i]!
    const dx = bx - ax
    const dy = by - ay
    const t = Math.min(1, Math.max(0, ((x - ax) * dx + (y - ay) * dy) / (dx * dx + dy * dy || 1)))
    best = Math.min(best, Math.hypot(ax + t * dx - x, ay + t * dy - y))
  }
  return best
}
