import { element, inputOf, isNode, type Element } from '../../network/document'
import { definitionOf, freeName } from '../../network/edit'
import { geometricDefault } from '../../nodes/definition'

/**
 * Spells out the coordinates that we take from the part where the standard has a constant (`geometricDefault`): a
 * `texcoord` node beside the nodes that ask for them, wired to each. What others read looks as it does here.
 */
export function spellCoordinates(document: Element): Element {
  const inside = spelled(document)
  return {
    ...inside,
    children: inside.children.map(c =>
      c.tag === 'nodegraph' && c.attributes.nodedef === undefined ? spelled(c) : c,
    ),
  }
}

/** The same in one scope. */
function spelled(scope: Element): Element {
  const asking = new Map<Element, string[]>()
  for (const node of scope.children.filter(isNode)) {
    const names = (definitionOf(node)?.inputs ?? [])
      .filter(i => i.defaultgeomprop === undefined && geometricDefault(i) !== undefined && !inputOf(node, i.name))
      .map(i => i.name)
    if (names.length) asking.set(node, names)
  }
  if (!asking.size) return scope
  const name = freeName(scope, 'uv_of_the_part')
  const wired = (node: Element, names: string[]): Element => ({
    ...node,
    children: [
      ...node.children,
      ...names.map(n => element('input', { name: n, type: 'vector2', nodename: name })),
    ],
  })
  const first = [...asking.keys()].at(0)!.attributes
  const at = { xpos: String(Number(first.xpos ?? 0) - 1), ypos: first.ypos ?? '0' }
  return {
    ...scope,
    children: [
      element('texcoord', { name, type: 'vector2', ...at }, [
        element('input', { name: 'index', type: 'integer', value: '0' }),
      ]),
      ...scope.children.map(c => (asking.has(c) ? wired(c, asking.get(c)!) : c)),
    ],
  }
}
