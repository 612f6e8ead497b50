/**
 * The way from a model to what is traced: the place where a material's program is evaluated over a part before its
 * hierarchy is built. What it depends on is a key (`shaping.ts`); an edit that leaves all keys as they were builds
 * nothing.
 */
import { openMap, type ReaderOf } from '../maps/texture'
import type { Model, Part } from '../mesh/model'
import { after, inverse, STILL, withoutCopy } from '../mesh/transform'
import { instantiate, type Shader } from '../network/instantiate'
import { densityOf, USUAL_ROOM } from './density'
import { displacedPart } from './displace-part'
import type { Shaping } from './shaping'

/** A shaping's program, ready to run in this thread. */
const shaderOf = ({ program, maps }: Shaping, readerOf?: ReaderOf): Shader =>
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
 */
export function shapeModel(
  model: Model,
  shapings: ReadonlyMap<number, Shaping>,
  readerOf?: ReaderOf,
  room = USUAL_ROOM,
): Model {
  if (shapings.size === 0) return model
  const parts = [...model.parts]
  for (const i of shapings.keys()) parts[i] = withoutCopy(model, parts[i]!)
  for (const i of shapings.keys()) if (!model.parts[i]!.copy) withOtherBody(parts, model, i)
  for (const [i, shaping] of shapings)
    parts[i] = displacedPart(
      parts[i]!,
      i,
      shaderOf(shaping, readerOf),
      Float64Array.from(shaping.program.constants),
      densityOf(parts[i]!, shaping.edge, room / shapings.size).edge,
    )
  return { parts }
}
