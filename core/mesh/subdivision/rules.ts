/**
 * Which rule a vertex follows (DeRose, Kass & Truong 1998, "Subdivision surfaces in character animation", §3): none
 * or one sharp edge makes it smooth, two a crease, more a corner.
 */
import { ALWAYS, type Cage } from './cage'

export const RULE = { smooth: 0, crease: 1, corner: 2 } as const

/** Sharpness after a step. */
export const worn = (s: number): number => (s >= ALWAYS ? s : Math.max(0, s - 1))

/** What the edges at each place say: how many there are and how many are sharp, before and after a step. */
export interface Sharps {
  edges: Uint32Array
  faces: Uint32Array
  before: Uint8Array
  after: Uint8Array
  /** Of what is sharp before and not after: how many, and their sharpness in all. */
  worn: Uint8Array
  wornSum: Float32Array
}

/** Visits each edge once. */
export function eachEdge(
  { place, next, edge, edges }: Cage,
  visit: (c: number, a: number, b: number) => void,
): void {
  const seen = new Uint8Array(edges)
  for (let c = 0; c < place.length; c++) {
    if (seen[edge[c]!]) continue
    seen[edge[c]!] = 1
    visit(c, place[c]!, place[next[c]!]!)
  }
}

export function countSharps(cage: Cage): Sharps {
  const places = cage.position.length / 3
  const s: Sharps = {
    edges: new Uint32Array(places),
    faces: new Uint32Array(places),
    before: new Uint8Array(places),
    after: new Uint8Array(places),
    worn: new Uint8Array(places),
    wornSum: new Float32Array(places),
  }
  const count = (a: number, sharpness: number) => {
    if (sharpness <= 0) return
    s.before[a] = Math.min(255, s.before[a]! + 1)
    if (worn(sharpness) > 0) s.after[a] = Math.min(255, s.after[a]! + 1)
    else {
      s.worn[a] = Math.min(255, s.worn[a]! + 1)
      s.wornSum[a]! += sharpness
    }
  }
  for (const a of cage.place) s.faces[a]!++
  eachEdge(cage, (c, a, b) => {
    s.edges[a]!++
    s.edges[b]!++
    count(a, cage.edgeSharpness[c]!)
    count(b, cage.edgeSharpness[c]!)
  })
  return s
}

const byCount = (sharp: number): number => (sharp < 2 ? RULE.smooth : sharp === 2 ? RULE.crease : RULE.corner)

/** Rule of a place before and after a step. A border's vertex of one face is a corner. */
export function ruleBefore(cage: Cage, s: Sharps, v: number): number {
  if (cage.vertexSharpness[v]! > 0 || (s.faces[v] === 1 && s.edges[v] === 2)) return RULE.corner
  return byCount(s.before[v]!)
}
export function ruleAfter(cage: Cage, s: Sharps, v: number): number {
  if (worn(cage.vertexSharpness[v]!) > 0 || (s.faces[v] === 1 && s.edges[v] === 2)) return RULE.corner
  return byCount(s.after[v]!)
}
