/**
 * Changes of the order of a material's layers. Layers are nodes along the spine of surfaces (see `layers.ts`); to
 * move one is to rewire it.
 */
import { addElement, changeElement, EditError, freeName, setAttribute } from './edit'
import { childNamed, nameOf, type Element } from './document'
import { belowInput, layersOf, liftOnto } from './layers'

/**
 * Moves a layer to lie directly on the spine node `over`.
 * @throws EditError when the stock would move, or a cut would no longer lie above what it lays bare
 */
export function moveLayer(document: Element, material: string | undefined, node: string, over: string): Element {
  const layers = layersOf(document, material)
  const at = layers.findIndex(l => l.node === node)
  const to = layers.findIndex(l => l.node === over)
  if (at < 0 || to < 0) throw new EditError('there is no such layer')
  if (at === 0) throw new EditError('the raw stock stays at the bottom')
  if (at === to || at === to + 1) return document
  const order = layers.filter((_, i) => i !== at)
  order.splice(order.findIndex(l => l.node === over) + 1, 0, layers[at]!)
  for (const [i, l] of order.entries()) {
    if (l.kind !== 'cut') continue
    const bare = order.findIndex(x => x.node === l.bare)
    if (bare > i) throw new EditError(`${l.title} lays ${order[bare]!.title} bare: it must stay above it`)
    if (bare === i - 1) throw new EditError(`${l.title} would have nothing left to take away`)
  }
  const below = layers[at - 1]!.node
  const d = liftOnto(liftOnto(document, node, below, node), over, node, node)
  return changeElement(d, node, n => ({
    ...n,
    children: n.children.map(c =>
      c.tag === 'input' && nameOf(c) === belowInput(n)
        ? { ...c, attributes: { ...c.attributes, nodename: over } }
        : c,
    ),
  }))
}

/**
 * Lays a copy of a layer on top of it. Its own surface is copied too; masks and maps stay shared.
 * @returns the new document and the copy's spine node
 */
export function duplicateLayer(
  document: Element,
  material: string | undefined,
  node: string,
): { document: Element; name: string } {
  const layers = layersOf(document, material)
  const layer = layers.find(l => l.node === node)
  const e = childNamed(document, node)
  if (!layer || !e || layer.kind === 'stock') throw new EditError('the raw stock cannot be doubled')
  if (layer.kind === 'cut') throw new EditError('a second cut with the same mask would take nothing more away')
  const lower = (k: string, by: number) => String(+(Number(e.attributes[k] ?? 0) + by).toFixed(3))
  let d = document
  let surface: string | undefined
  const title = `${layer.title} 2`
  if (layer.surface !== node) {
    const own = childNamed(d, layer.surface)!
    surface = freeName(d, nameOf(own))
    d = addElement(d, '', {
      ...own,
      attributes: {
        ...own.attributes,
        name: surface,
        wl_title: title,
        ypos: String(+(Number(own.attributes.ypos ?? 0) + 1.1).toFixed(3)),
      },
    })
  }
  const name = freeName(d, nameOf(e))
  d = liftOnto(d, node, name, name)
  d = addElement(d, '', {
    ...e,
    attributes: {
      ...e.attributes,
      name,
      xpos: lower('xpos', 1),
      ypos: lower('ypos', 0.3),
      ...(surface === undefined ? { wl_title: title } : {}),
    },
    children: e.children.map(c => {
      const input = c.tag === 'input' ? nameOf(c) : ''
      if (input === belowInput(e)) return { ...c, attributes: { ...c.attributes, nodename: node } }
      return input === 'fg' && surface !== undefined
        ? { ...c, attributes: { ...c.attributes, nodename: surface } }
        : c
    }),
  })
  return { document: d, name }
}

/**
 * The document with one layer alone: other coats, deposits and cuts switched off. A cut keeps the deposits it
 * works on.
 */
export function layerAlone(document: Element, material: string | undefined, node: string): Element {
  const layers = layersOf(document, material)
  const alone = layers.find(l => l.node === node)
  if (!alone) return document
  return layers.reduce(
    (d, l) => {
      const stays = l.node === node || l.kind === 'stock' || (alone.kind === 'cut' && l.kind !== 'cut')
      return stays ? d : setAttribute(d, l.node, 'wl_off', 'true')
    },
    setAttribute(document, node, 'wl_off', undefined),
  )
}
