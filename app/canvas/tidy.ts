import dagre from '@dagrejs/dagre'
import { setAttribute } from '../../core/network/edit'
import { isNode, nameOf, type Element } from '../../core/network/document'
import { isGroup } from '../../core/network/groups'
import { wiresOf } from './arrange'
import { CARD, cardOf, CELL, heightOf } from './cards'

/**
 * Lays a network out anew in columns from left to right, so that wires cross little (layered drawing, Sugiyama et
 * al. 1981, by dagre).
 */
export function tidy(document: Element): Element {
  const graph = new dagre.graphlib.Graph()
  const nodes = document.children.filter(c => isNode(c) || isGroup(c))
  graph.setGraph({ rankdir: 'LR', nodesep: 28, ranksep: 68, ranker: 'network-simplex' })
  graph.setDefaultEdgeLabel(() => ({}))
  for (const n of nodes)
    graph.setNode(nameOf(n), { width: CARD.width, height: heightOf(cardOf(n, nameOf(n), [], false)) })
  for (const w of wiresOf(document)) graph.setEdge(w.source, w.target)
  dagre.layout(graph)
  return nodes.reduce((d, n) => {
    const p = graph.node(nameOf(n))
    return setAttribute(
      setAttribute(d, nameOf(n), 'xpos', String(+((p.x - p.width / 2) / CELL.x).toFixed(3))),
      nameOf(n),
      'ypos',
      String(+((p.y - p.height / 2) / CELL.y).toFixed(3)),
    )
  }, document)
}
