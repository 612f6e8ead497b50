/**
 * Relief seen as what it stands for: a surface whose normal is tilted, on a plane that is not, is a sawtooth of that
 * tilt with upright backs of the same matter (Schüssler et al. 2017, "Microfacet-based Normal Mapping", §4). Light that
 * a metal sends below the horizon, or behind a back, meets it again: none is lost, and each meeting colours it.
 */
import { memory, now, scattered } from './memory'
import { ASK, CHANNELS, FACET, LOBE, SPEC } from './slots'

const { ask, coloured, facet, fresnel, lobes, meetings, once, spec } = memory

/** Cosine of a tilt below which there is none to speak of. */
const FLAT = 0.9999
/** And above which teeth are no image of it. */
const STEEPEST = 0.1
/** Places of a tooth that are looked at; meetings after which light is taken to leave. */
const PLACES = 8
const MOST = 8
/** Teeth that a ray crosses without meeting one, before it is taken to leave. */
const TEETH = 64

/** Cosine of the tilt of the normal in `memory.spec` against the surface's own. */
const tilt = (): number =>
  Math.abs(spec[SPEC.normal]! * now.sx + spec[SPEC.normal + 1]! * now.sy + spec[SPEC.normal + 2]! * now.sz)

/** Whether the normal in `memory.spec` is tilted at all. */
export function isTilted(): boolean {
  const cosine = tilt()
  return cosine <= FLAT && cosine > STEEPEST
}

/**
 * Colours the metal lobe at o, just pushed with the normal in `memory.spec`, as the sawtooth that it stands for does:
 * by every meeting of mirrors in the plane of both normals, each at its own angle.
 * @param reflect fills `memory.fresnel` for the cosine in `memory.facet`
 */
export function colourByMeetings(o: number, reflect: (o: number) => void): void {
  if (!isTilted()) return
  const cosine = tilt()
  const sine = Math.sqrt(1 - cosine * cosine)
  const { sx, sy, sz } = now
  const out = spec[SPEC.normal]! * sx + spec[SPEC.normal + 1]! * sy + spec[SPEC.normal + 2]! * sz < 0 ? -1 : 1
  // the way that the teeth look, along the plane
  const tx = (out * spec[SPEC.normal]! - cosine * sx) / sine
  const ty = (out * spec[SPEC.normal + 1]! - cosine * sy) / sine
  const tz = (out * spec[SPEC.normal + 2]! - cosine * sz) / sine
  const along = now.ox * tx + now.oy * ty + now.oz * tz
  const up = now.ox * sx + now.oy * sy + now.oz * sz
  if (!(up > 0)) return
  coloured.fill(0)
  for (let place = 0; place < PLACES; place++) {
    const n = meetTeeth((place + 0.5) / PLACES, -along, -up, sine, cosine)
    once.fill(1)
    for (let j = 0; j < n; j++) {
      facet[FACET.cosine] = meetings[j]!
      reflect(o)
      for (let k = 0; k < CHANNELS; k++) once[k]! *= fresnel[k]!
    }
    for (let k = 0; k < CHANNELS; k++) coloured[k]! += once[k]! / PLACES
  }
  // what the lobe itself will answer with
  facet[FACET.cosine] = lobes[o + LOBE.cosine]!
  reflect(o)
  for (let k = 0; k < CHANNELS; k++) if (fresnel[k]! > 0) lobes[o + LOBE.weight + k]! *= coloured[k]! / fresnel[k]!
}

/**
 * Follows a ray over teeth z = −x·tan θ, 0 ≤ x < 1, with upright backs between, until it leaves; the cosines of its
 * meetings go to `memory.meetings`.
 * @param x where it comes in at z = 0; dx, dz its direction, down
 * @returns how many meetings there were
 */
function meetTeeth(x: number, dx: number, dz: number, sine: number, cosine: number): number {
  const tangent = sine / cosine
  let z = 0
  let onFace = false
  let n = 0
  for (let tooth = 0; n < MOST && tooth < TEETH; tooth++) {
    const falls = dz + tangent * dx
    const toFace = !onFace && falls < 0 ? Math.max(0, -(z + tangent * x) / falls) : Infinity
    const toSide = dx > 0 ? (1 - x) / dx : dx < 0 ? -x / dx : Infinity
    const toTop = dz > 0 ? -z / dz : Infinity
    if (toTop <= toFace && toTop <= toSide) break
    if (toFace <= toSide) {
      x += toFace * dx
      z += toFace * dz
      // mirrored by the face, whose normal is (sin θ, cos θ)
      const q = dx * sine + dz * cosine
      meetings[n++] = Math.min(1, Math.abs(q))
      dx -= 2 * q * sine
      dz -= 2 * q * cosine
      onFace = true
      continue
    }
    if (toSide === Infinity) break
    z += toSide * dz
    onFace = false
    if (dx < 0) {
      x = 1
      continue
    }
    if (z >= 0) {
      x = 0
      continue
    }
    // mirrored by the back
    x = 1
    meetings[n++] = dx
    dx = -dx
  }
  return n
}

/**
 * What Lambert's law leaves out of the light that a white sawtooth sends back, for reflectance a: two even patches that
 * see each other (radiosity; form factors by crossed strings, Hottel 1954), less (1 + cos θ)/2 of the face alone.
 */
export function backFromNeighbours(a: number): number {
  const cosine = tilt()
  const sine = Math.sqrt(1 - cosine * cosine)
  const onFace = (1 + sine - cosine) / 2
  const onBack = onFace / sine
  const face = (a * (1 - onFace + onFace * a * (1 - onBack))) / (1 - a * a * onFace * onBack)
  return Math.max(0, face - (a * (1 + cosine)) / 2)
}

/**
 * Mirrors the light in `memory.facet` at the plane of the geometry, where the lobe at o sends light below that.
 * @returns false where it does not: then nothing has changed, else {@link unfold} must follow
 */
export function askFolded(o: number): boolean {
  const up = facet[FACET.x]! * now.gx + facet[FACET.y]! * now.gy + facet[FACET.z]! * now.gz
  const n = lobes[o + LOBE.nx]! * now.gx + lobes[o + LOBE.ny]! * now.gy + lobes[o + LOBE.nz]! * now.gz
  const light = facet[FACET.light]! - 2 * up * n
  if (!(light > 0)) return false
  facet[FACET.x]! -= 2 * up * now.gx
  facet[FACET.y]! -= 2 * up * now.gy
  facet[FACET.z]! -= 2 * up * now.gz
  facet[FACET.light] = light
  return true
}

/** Takes the mirroring of {@link askFolded} back. */
export function unfold(): void {
  facet[FACET.x] = ask[ASK.x]!
  facet[FACET.y] = ask[ASK.y]!
  facet[FACET.z] = ask[ASK.z]!
}

/** Mirrors the direction drawn at the plane of the geometry, where it leaves below that. */
export function foldUp(): void {
  const below = scattered.x * now.gx + scattered.y * now.gy + scattered.z * now.gz
  if (below >= 0) return
  scattered.x -= 2 * below * now.gx
  scattered.y -= 2 * below * now.gy
  scattered.z -= 2 * below * now.gz
}
