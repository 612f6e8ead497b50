import { definitionOf } from './edit'
import { inputOf, type Element } from './document'
import { allNodes } from './groups'
import { specimens } from './specimens'

/** Measured matter as a node states it: which, and under what film. */
interface Stated {
  metal: string | undefined
  glass: string | undefined
  film: number
  index: number
}
const MEASURED = ['wl_metal', 'wl_glass']

/** What a node states; a film that is driven by others is that of no specimen. */
function statedBy(node: Element): Stated {
  const inputs = definitionOf(node)?.inputs
  const value = (name: string): string | undefined => {
    const stated = inputOf(node, name)?.attributes
    if (stated) return stated.value
    return inputs?.find(i => i.name === name)?.default
  }
  return {
    metal: node.tag === 'wl_metal' ? value('metal') : undefined,
    glass: node.tag === 'wl_glass' ? value('glass') : undefined,
    film: Number(value('film_thickness')),
    index: Number(value('film_ior')),
  }
}

/** Specimens that are films, by what their documents state; the others are known by their matter alone. */
const films = specimens
  .filter(s => s.class === 'Films')
  .flatMap(s => {
    const node = allNodes(s.make()).find(n => MEASURED.includes(n.node.tag))
    return node ? [{ key: s.key, stated: statedBy(node.node) }] : []
  })

/** Keys of the specimens whose measured values a document uses, each once. */
export function specimensIn(document: Element): string[] {
  const keys = allNodes(document)
    .filter(n => MEASURED.includes(n.node.tag))
    .flatMap(({ node }) => {
      const at = statedBy(node)
      const matter = at.metal !== undefined ? `metal:${at.metal}` : `glass:${at.glass}`
      const film = films.filter(
        f =>
          f.stated.metal === at.metal &&
          f.stated.glass === at.glass &&
          f.stated.film === at.film &&
          f.stated.index === at.index,
      )
      return [matter, ...film.map(f => f.key)]
    })
  return [...new Set(keys)].filter(key => specimens.some(s => s.key === key))
}
