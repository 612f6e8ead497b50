import { bouncesOf } from '../scene/bounces'
import type { Picture } from '../formats/pictures/picture'
import type { Rig } from '../scene/rig'
import type { Model } from '../mesh/model'
import { atTime, type Program } from '../network/compile'
import type { Element } from '../network/document'
import type { TextureMap } from '../maps/map'
import type { ReaderOf } from '../maps/texture'
import type { BuildShare } from '../trace/build-share'
import type { Allocate } from '../trace/hierarchy'
import { compileMaterial, createMapShelf, neutralDocument, mapsFor, type MapRoom } from './compile-material'
import { fieldsFor } from './fields-for'
import { lightsFor } from './lights-for'
import type { SceneDocument } from '../scene/document'
import { createGeometry } from '../scene/geometry'
import { withValues } from '../scene/part-values'
import { shapeModel, shapingsOf } from '../shape/shape-model'
import { shapingOf } from '../shape/shaping'
import type { World } from './world'

export interface WorldSources {
  scene: SceneDocument
  rig: Rig
  model: Model
  /** Documents of the scene's materials, by key; a missing one leaves its parts neutral. */
  documents: ReadonlyMap<string, Element>
  /** Picture that a material's document names, or the rig's environment where the key is null. */
  picture(material: string | null, file: string): Picture | undefined
  /** Whether constants are written into the code: for long renders. */
  bake: boolean
  allocate?: Allocate
  /** Memory for maps; as much as they need where it is left out. */
  room?: MapRoom
  /** Reads tiles of maps that are kept in files. */
  readerOf?: ReaderOf
  /** Asks other threads to help with the hierarchy. */
  call?(share: BuildShare): void
  /** Seconds; the scene's own time when left out. */
  time?: number
  /** Hears of every program that was compiled. */
  compiled?(program: Program): void
}

/**
 * Builds all that the workers need from a scene's documents: what `render` and the queue of frames compute is the
 * same by construction.
 */
export function buildWorld(s: WorldSources): World {
  const keys = [...s.documents.keys()]
  const programs: Program[] = []
  const maps: (TextureMap | null)[][] = []
  const shelf = createMapShelf(s.allocate, s.room)
  const mapsIn = (p: Program, key: string | null) => mapsFor(p, file => s.picture(key, file), shelf, key ?? '')
  const add = (document: Element, material: string | undefined, key: string | null): number => {
    const program = atTime(compileMaterial(document, material, s.bake), s.time ?? s.scene.time ?? 0)
    s.compiled?.(program)
    maps.push(mapsIn(program, key))
    return programs.push(program) - 1
  }
  for (const key of keys) add(s.documents.get(key)!, s.scene.materials[key]?.material, key)
  const neutral = add(neutralDocument, undefined, null)
  const hidden = new Set(s.scene.parts.filter(p => p.hidden).map(p => p.name))
  // of two of one name the first counts
  const partOf = new Map([...s.scene.parts].reverse().map(p => [p.name, p]))
  const materialOf = Int32Array.from(s.model.parts, ({ name }) => {
    const part = partOf.get(name)
    const key = part?.material ?? ''
    const document = s.documents.get(key)
    if (!document) return neutral
    const own = withValues(document, part!.values)
    return own === document ? keys.indexOf(key) : add(own, s.scene.materials[key]?.material, key)
  })
  const shapings = shapingsOf(s.model, (name, i) => {
    const part = partOf.get(name)
    const key = part && s.documents.has(part.material) ? part.material : null
    return hidden.has(name) ? undefined : shapingOf(programs[materialOf[i]!]!, p => mapsIn(p, key), part)
  })
  const geometry = createGeometry(shapeModel(s.model, shapings, s.readerOf), hidden, s.allocate, s.call)
  return {
    geometry,
    lights: lightsFor(s.rig, file => s.picture(null, file), s.allocate),
    programs,
    maps,
    materialOf,
    priorityOf: Int32Array.from(geometry.partNames, name => partOf.get(name)?.priority ?? 0),
    fields: fieldsFor(geometry, programs, s.allocate),
    ...bouncesOf(s.scene),
    clamp: s.scene.clamp,
  }
}
