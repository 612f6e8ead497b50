/**
 * The way from a model to what is traced: the place where a material's program is evaluated over a part before its
 * hierarchy is built. What it depends on is a key (`shaping.ts`); an edit that leaves all keys as they were builds
 * nothing.
 */
import { openMap, type ReaderOf } from '../maps/texture'
import type { Model, Part } from '../mesh/model'
import { after, inverse, STILL, withoutCopy } from '../mesh/transform'
import { subdividePart } from '../mesh/subdivision/subdivide'
import type { Program } from '../network/compile'
import { instantiate, type Shader } from '../network/instantiate'
import { densityOf, USUAL_ROOM, type Density } from './density'
import { joinBorders, touching } from './borders'
import { cutPart, movedPart, offsetsOf, type Moving } from './displace-part'
import type { Shaping } from './shaping'

/** How much longer edges are where a picture is wanted at once. */
const COARSER = 4

/** A shaping's program, ready to run in this thread. */
const shaderOf = (program: Program, maps: Shaping['maps'], readerOf?: ReaderOf): Shader =>
  instantiate(
    program,
    maps.map(m => m && openMap(m, readerOf)),
  )

/** Makes the first copy of a mesh that changes the one that the others are copies of. */
function withOtherBody(parts: Part[], model: Model, body: number): void {
  const copies = parts.flatMap((p, i) => (p.copy?.of === body ? [i] : []))
  const next = copies[0]
  if (next === undefined) return
  const back = inverse(parts[next]!.copy!.transform) ?? STILL
  for (const i of copies.slice(1)) {
    const { transform } = parts[i]!.copy!
    parts[i] = { ...parts[i]!, copy: { of: next, transform: after(transform, back) } }
  }
  parts[next] = withoutCopy(model, model.parts[next]!)
}

/** Shapings of a model's parts, by number. @param shapingOf that of a part, by its name and number */
export function shapingsOf(
  model: Model,
  shapingOf: (name: string, number: number) => Shaping | undefined,
): Map<number, Shaping> {
  const found = new Map<number, Shaping>()
  model.parts.forEach(({ name }, i) => {
    const shaping = shapingOf(name, i)
    if (shaping) found.set(i, shaping)
  })
  return found
}

/**
 * A model as its materials shape it; itself where none does. A copy that is shaped has triangles of its own from then
 * on.
 * @param shapings by number of part
 * @param readerOf where tiles of maps are read that are kept in files
 * @param room bytes that all of them may take while they are made: beyond, triangles are larger than was asked for
 * @param coarsened hears of parts whose triangles are
 */
export function shapeModel(
  model: Model,
  shapings: ReadonlyMap<number, Shaping>,
  readerOf?: ReaderOf,
  room = USUAL_ROOM,
  coarsened?: (part: Part, density: Density) => void,
): Model {
  if (shapings.size === 0) return model
  const parts = [...model.parts]
  for (const i of shapings.keys()) parts[i] = withoutCopy(model, parts[i]!)
  for (const i of shapings.keys()) if (!model.parts[i]!.copy) withOtherBody(parts, model, i)
  for (const [i, { subdivide }] of shapings) if (subdivide) parts[i] = subdividePart(parts[i]!, subdivide)
  const displaced = [...shapings].filter(([, s]) => s.program)
  const edges = new Map<number, number>()
  for (const [i, { edge, coarse }] of displaced) {
    const density = densityOf(parts[i]!, edge, room / displaced.length)
    if (density.wanted !== undefined) coarsened?.(parts[i]!, density)
    edges.set(i, density.edge * (coarse ? COARSER : 1))
  }
  const groups = touching(new Map(displaced.map(([i]) => [i, parts[i]!])))
  for (const group of groups) {
    const finest = Math.min(...group.map(i => edges.get(i)!))
    for (const i of group) edges.set(i, finest)
  }
  const moving = new Map<number, Moving>()
  for (const [i, { program, maps }] of displaced) {
    const part = cutPart(parts[i]!, edges.get(i))
    const shader = shaderOf(program!, maps, readerOf)
    moving.set(i, offsetsOf(part, i, shader, Float64Array.from(program!.constants)))
  }
  for (const group of groups) joinBorders(group.map(i => moving.get(i)!))
  for (const [i, m] of moving) parts[i] = movedPart(m)
  return { parts }
}
