import type { TextureMap } from '../../core/maps/map'
import { atTime, compileNetwork, type Program } from '../../core/network/compile'
import type { Element } from '../../core/network/document'
import { layerAlone } from '../../core/network/layer-order'
import { withValues } from '../../core/scene/part-values'
import { shapingOf, type PartShape, type Shaping } from '../../core/shape/shaping'
import { compileMaterial, neutralDocument } from '../../core/world/compile-material'
import type { ProjectState } from '../../shared/api'

/** What of the materials is looked at in place of the whole. */
export interface Looking {
  /** A node whose values are shown. */
  tap: { material: string; node: string } | null
  /** A layer that is shown alone, and the material that it belongs to: its key and its name in the document. */
  layerAlone: string | null
  materialKey: string | null
  materialName: string | undefined
}

/** The programs that a state needs. */
export interface Worn {
  /** Those of its materials in order, the neutral one, then those of parts with values of their own. */
  programs: Program[]
  /** Number of a part's program. */
  numberOf(part: string): number
  /** The whole material of a part, whatever is looked at; undefined where it wears none. */
  wholeOf(part: string): Program | undefined
}

/** Compiles what a bench shows, each document's programs once. */
export function createCompiled() {
  const compiled = new WeakMap<Element, Map<string, Program>>()
  const alone = new WeakMap<Element, { node: string; document: Element }>()

  /** Compiles a document's material, or one node of it. */
  function program(document: Element, material: string | undefined, node?: string): Program {
    const key = node !== undefined ? 'node:' + node : 'material:' + (material ?? '')
    let known = compiled.get(document)
    if (!known) compiled.set(document, (known = new Map()))
    let p = known.get(key)
    if (!p)
      known.set(
        key,
        (p = node !== undefined ? compileNetwork(document, node) : compileMaterial(document, material)),
      )
    return p
  }

  /** The document with one layer alone. */
  function aloneIn(document: Element, node: string, material: string | undefined): Element {
    let known = alone.get(document)
    if (known?.node !== node)
      alone.set(document, (known = { node, document: layerAlone(document, material, node) }))
    return known.document
  }

  function worn({ scene, materials }: ProjectState, looking: Looking): Worn {
    const keys = Object.keys(materials)
    const seconds = scene.time ?? 0
    const nameIn = (key: string) => scene.materials[key]?.material
    const isAlone = (key: string) => looking.layerAlone !== null && looking.materialKey === key
    const programs = keys.map(key => {
      const document = materials[key]!
      if (looking.tap?.material === key) return program(document, undefined, looking.tap.node)
      const shown = isAlone(key) ? aloneIn(document, looking.layerAlone!, looking.materialName) : document
      return program(shown, nameIn(key))
    })
    const neutral = programs.push(program(neutralDocument, undefined)) - 1
    const numbers = new Map<string, number>()
    const wholes = new Map<string, Program>()
    for (const { name, material = '', values } of scene.parts) {
      const i = keys.indexOf(material)
      if (i < 0) continue
      const own = withValues(materials[material]!, values)
      const whole = looking.tap?.material !== material && !isAlone(material)
      const number = own === materials[material] || !whole ? i : programs.push(program(own, nameIn(material))) - 1
      numbers.set(name, number)
      wholes.set(name, whole ? programs[number]! : program(own, nameIn(material)))
    }
    return {
      programs: programs.map(p => atTime(p, seconds)),
      numberOf: part => numbers.get(part) ?? neutral,
      wholeOf: part => {
        const whole = wholes.get(part)
        return whole && atTime(whole, seconds)
      },
    }
  }

  return { program, worn }
}

/** How the parts that are shown are shaped, by name. @param maps pictures of a program */
export function shapingsByName(
  parts: readonly (PartShape & { name: string })[],
  hidden: readonly string[],
  worn: Worn,
  maps: (p: Program) => (TextureMap | null)[],
): Map<string, Shaping> {
  const found = new Map<string, Shaping>()
  for (const part of parts) {
    const { name } = part
    const program = hidden.includes(name) ? undefined : worn.wholeOf(name)
    const shaping = program && shapingOf(program, maps, part)
    if (shaping) found.set(name, shaping)
  }
  return found
}

/** The same with larger triangles, for a picture at once; subdivided alone, as they are. */
export const coarsely = (shapings: ReadonlyMap<string, Shaping>): Map<string, Shaping> =>
  new Map([...shapings].map(([name, s]) => [name, s.program ? { ...s, coarse: true } : s]))
