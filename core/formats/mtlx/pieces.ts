/**
 * Pieces of a network as text that every reader of the standard understands: what copy puts on the clipboard and
 * paste takes from it.
 */
import { containedIn, isBackdrop, withContained } from '../../network/backdrops'
import { isGroup } from '../../network/groups'
import { readMtlx, writeMtlx } from './mtlx'
import { addElement, EditError, freeName } from '../../network/edit'
import { childNamed, emptyDocument, isNode, nameOf, type Element } from '../../network/document'

/**
 * MaterialX text of some nodes with the wires between them; a frame brings what it is about.
 * @throws EditError when none of them exists
 */
export function copyNodes(document: Element, picked: readonly string[]): string {
  const names = withContained(document, picked)
  const whole = document.children.filter(
    c => (isNode(c) || isGroup(c) || isBackdrop(c)) && names.includes(nameOf(c)),
  )
  // a group that is picked brings what is in it; nodes of one that is not come out of it
  const inside = document.children
    .filter(c => isGroup(c) && !whole.includes(c))
    .flatMap(g => g.children.filter(c => isNode(c) && names.includes(`${nameOf(g)}/${nameOf(c)}`)))
    .map(n => ({ ...n, children: n.children.filter(i => i.attributes.interfacename === undefined) }))
  const chosen = [...whole, ...inside]
  if (!chosen.length) throw new EditError('nothing is picked that could be copied')
  return writeMtlx({ ...emptyDocument(), attributes: { ...document.attributes }, children: chosen })
}

/**
 * Adds the nodes of a MaterialX text beside what is there, under free names and moved by (dx, dy) cells. Wires
 * between them stay; a wire to a node that came along with neither stays where the document has a node of that
 * name and type, else it goes.
 * @throws FormatError where the text is not MaterialX, EditError where it holds no nodes
 */
export function pasteNodes(
  document: Element,
  text: string,
  dx: number,
  dy: number,
): { document: Element; names: string[] } {
  const nodes = readMtlx(text).children.filter(c => isNode(c) || isBackdrop(c) || c.tag === 'nodegraph')
  if (!nodes.length) throw new EditError('the text holds no nodes')
  const renamed = new Map<string, string>()
  let scope = document
  for (const n of nodes) {
    const name = freeName(scope, nameOf(n) || n.tag)
    renamed.set(nameOf(n), name)
    scope = { ...scope, children: [...scope.children, { ...n, attributes: { ...n.attributes, name } }] }
  }
  const contained = (n: Element) =>
    containedIn(n)
      .flatMap(c => renamed.get(c) ?? [])
      .join(', ')
  const pasted = nodes.map((n): Element => {
    const moved = (key: 'xpos' | 'ypos', by: number) =>
      n.attributes[key] === undefined ? {} : { [key]: String(+(Number(n.attributes[key]) + by).toFixed(3)) }
    return {
      ...n,
      attributes: {
        ...n.attributes,
        name: renamed.get(nameOf(n))!,
        ...moved('xpos', dx),
        ...moved('ypos', dy),
        ...(containedIn(n).length ? { contains: contained(n) } : {}),
      },
      children:
        n.tag === 'nodegraph'
          ? n.children
          : n.children.flatMap((i): Element[] => {
              const key =
                i.attributes.nodename !== undefined
                  ? 'nodename'
                  : i.attributes.nodegraph !== undefined
                    ? 'nodegraph'
                    : undefined
              if (i.tag !== 'input' || key === undefined) return [i]
              const from = i.attributes[key]!
              const to = renamed.get(from)
              if (to !== undefined) return [{ ...i, attributes: { ...i.attributes, [key]: to } }]
              const there = childNamed(document, from)
              return there && (key === 'nodegraph' || there.attributes.type === i.attributes.type) ? [i] : []
            }),
    }
  })
  return { document: pasted.reduce((d, n) => addElement(d, '', n), document), names: [...renamed.values()] }
}
