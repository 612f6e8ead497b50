/** From documents to what a {@link World} holds: programs and textures. */
import { compileNetwork, type Program } from '../network/compile'
import { childNamed, materialsOf, nameOf, type Element, element } from '../network/document'
import { createTexture, type Texture } from '../maps/texture'
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
  return passesStraight(document, name) ? { ...program, straight: true } : program
}

/**
 * Prepares textures for the images a program reads.
 * @param picture decoded image by file name; undefined when it is missing
 */
export function texturesFor(
  program: Program,
  picture: (file: string) => Picture | undefined,
  cache: Map<string, Texture> = new Map(),
): (Texture | null)[] {
  return program.images.map(({ file, colorspace }) => {
    const key = `${colorspace}\n${file}`
    let texture = cache.get(key)
    if (!texture) {
      const p = picture(file)
      if (!p) return null
      texture = createTexture(p.width, p.height, p.data, colorspace)
      cache.set(key, texture)
    }
    return texture
  })
}
