/** From documents to what a {@link World} holds: programs and textures. */
import { compileNetwork, imagesOf, type Program } from '../network/compile'
import { compileDisplacement } from '../network/compile-displacement'
import type { Fault } from '../network/resolve'
import { childNamed, materialsOf, nameOf, type Element, element } from '../network/document'
import { createMap } from '../maps/create-map'
import { bytesOf, type AllocateMap, type TextureMap } from '../maps/map'
import type { TileStore } from '../maps/paging'
import { planFor } from '../maps/plan'
import { openMap, type Texture } from '../maps/texture'
import type { Picture } from '../formats/pictures/picture'

/** What stands in for a missing material: a neutral grey. */
export const neutralDocument: Element = element('materialx', { version: '1.39', colorspace: 'lin_rec709' }, [
  element('open_pbr_surface', { name: 'grey', type: 'surfaceshader' }, [
    element('input', { name: 'base_color', type: 'color3', value: '0.5, 0.5, 0.5' }),
    element('input', { name: 'specular_roughness', type: 'float', value: '0.5' }),
  ]),
  element('surfacematerial', { name: 'neutral', type: 'material' }, [
    element('input', { name: 'surfaceshader', type: 'surfaceshader', nodename: 'grey' }),
  ]),
])

/** Attribute of a surfacematerial: light passes it straight in shadows. */
export const STRAIGHT = 'wl_straight_shadows'
/** Whether a material of a document lets light pass straight in shadows. */
export const passesStraight = (document: Element, material: string): boolean =>
  childNamed(document, material)?.attributes[STRAIGHT] === 'true'

/** Compiles a material of a document: the one named, or the first. */
export function compileMaterial(document: Element, material?: string, bake = false): Program {
  const name = material ?? (materialsOf(document)[0] ? nameOf(materialsOf(document)[0]!) : undefined)
  if (name === undefined) {
    const surface = document.children.find(c => c.attributes.type === 'surfaceshader')
    return compileNetwork(document, surface ? nameOf(surface) : 'material', { bake })
  }
  const program = compileNetwork(document, name, { bake })
  const displacement = compileDisplacement(document, name, { bake })
  return {
    ...program,
    ...(passesStraight(document, name) ? { straight: true } : {}),
    ...(displacement ? { displacement, faults: joinedFaults(program.faults, displacement.faults) } : {}),
  }
}

/** Faults of two programs, those that both have once. */
const joinedFaults = (a: readonly Fault[], b: readonly Fault[]): Fault[] => [
  ...a,
  ...b.filter(f => !a.some(x => x.where === f.where && x.input === f.input && x.message === f.message)),
]

/** Maps, each made once. */
export interface MapShelf {
  /** Map of a picture by where it is from; null where there is none. */
  map(from: string, colorspace: string, read: () => Picture | undefined): TextureMap | null
}

/** Memory that maps may take, bytes, and a file for the tiles of those that do not fit. */
export interface MapRoom {
  bytes: number
  store: TileStore
}

/**
 * @param allocate memory of threads that are to share the maps
 * @param room as much as they need where it is left out
 */
export function createMapShelf(allocate?: AllocateMap, room?: MapRoom): MapShelf {
  const made = new Map<string, TextureMap | null>()
  let taken = 0
  const create = (picture: Picture, colorspace: string, id: string): TextureMap => {
    if (!room) return createMap(picture, colorspace, { id, allocate })
    const { skip, pageBytes } = planFor(picture, room.bytes - taken, true)
    const pages = pageBytes === undefined ? undefined : { store: room.store, bytes: pageBytes }
    const map = createMap(picture, colorspace, { id, allocate, skip, pages })
    taken += bytesOf(map)
    return map
  }
  return {
    map(from, colorspace, read) {
      const id = colorspace + '\n' + from
      let map = made.get(id)
      if (map !== undefined) return map
      const picture = read()
      map = picture ? create(picture, colorspace, id) : null
      made.set(id, map)
      return map
    },
  }
}

/**
 * Maps for the images that a program and its displacement read.
 * @param picture decoded image by file name; undefined when it is missing. It is not kept
 * @param folder tells files of one name in several places apart
 */
export const mapsFor = (
  program: Program,
  picture: (file: string) => Picture | undefined,
  shelf: MapShelf,
  folder = '',
): (TextureMap | null)[] =>
  imagesOf(program).map(({ file, colorspace }) => shelf.map(folder + '\n' + file, colorspace, () => picture(file)))

/** {@link mapsFor}, opened in this thread. */
export const texturesFor = (
  program: Program,
  picture: (file: string) => Picture | undefined,
): (Texture | null)[] => mapsFor(program, picture, createMapShelf()).map(m => m && openMap(m))
