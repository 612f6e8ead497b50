import equal from 'fast-deep-equal/es6'
import type { GraphNode, NodeDragEvent, useVueFlow } from '@vue-flow/core'
import { containedIn } from '../../core/network/backdrops'
import { findElement } from '../../core/network/document'
import { insertOnWire } from '../../core/network/splice'
import { routable, type Placed, type CanvasWire } from './arrange'
import { CARD, CELL } from './cards'
import { distanceTo, routeWires, type Path } from './route'
import { placeAt, withPlaces } from './with-places'

/** How near a wire lies to the middle of a card that is put into it, pixels. */
const NEAR = 26

/** What a titled frame takes along, and where it stands in it, pixels. */
interface Follower {
  node: GraphNode
  frame: GraphNode
  dx: number
  dy: number
}

/** Drags of cards, groups, notes and frames; wires follow, and a card that hangs free may be let go on one. */
export function useDrags(
  flow: ReturnType<typeof useVueFlow>,
  standing: () => { placed: readonly Placed[]; wires: readonly CanvasWire[] },
) {
  const bench = useBench()
  /** Paths of the wires by id: each wire draws its own. */
  const paths = shallowRef(new Map<string, Path>())
  let followers: Follower[] = []
  /** Whether a card moves now, by itself or with what holds it. */
  function moves(id: string): boolean {
    const n = flow.findNode(id)
    if (!n) return false
    return n.dragging || followers.some(f => f.node === n) || (!!n.parentNode && moves(n.parentNode))
  }
  function route(): void {
    const { placed, wires } = standing()
    const { wires: w, boxes } = routable(placed, wires, id => {
      const n = moves(id) ? flow.findNode(id) : undefined
      return n && { x: n.computedPosition.x, y: n.computedPosition.y }
    })
    // a path that stays is the same one: its wire is not drawn again
    paths.value = new Map(
      [...routeWires(w, boxes)].map(([id, path]) => {
        const was = paths.value.get(id)
        return [id, equal(was, path) ? was! : path]
      }),
    )
  }
  function began(e: NodeDragEvent): void {
    const held = new Set(e.nodes.map(n => n.id))
    followers = e.nodes.flatMap(frame => {
      const element =
        frame.type === 'backdrop' && bench.document ? findElement(bench.document, frame.id) : undefined
      return (element ? containedIn(element) : []).flatMap(name => {
        const node = held.has(name) ? undefined : flow.findNode(name)
        if (!node) return []
        return [{ node, frame, dx: node.position.x - frame.position.x, dy: node.position.y - frame.position.y }]
      })
    })
  }
  let routing = 0
  /** What a frame is about follows it; wires follow what is dragged, once a frame of the screen. */
  function dragged(): void {
    for (const { node, frame, dx, dy } of followers)
      node.position = { x: frame.position.x + dx, y: frame.position.y + dy }
    routing ||= requestAnimationFrame(() => {
      routing = 0
      route()
    })
  }
  /** The wire under the middle of a card that hangs free. */
  function wireUnder(id: string, x: number, y: number): { target: string; input: string } | undefined {
    const d = bench.document
    const { wires } = standing()
    if (!d || wires.some(w => w.source === id || w.target === id)) return undefined
    const under = wires.find(w => !w.target.includes('/') && distanceTo(paths.value.get(w.id) ?? [], x, y) < NEAR)
    return under && { target: under.target, input: under.targetHandle }
  }
  /** Keeps where things were dragged to. A document that says little about places is given those of all its cards. */
  function moved(e: NodeDragEvent): void {
    dragged()
    const all = [...e.nodes, ...followers.map(f => f.node)]
    followers = []
    const one = all.length === 1 && all[0]!.type === 'card' ? all[0]! : undefined
    const onto = one && wireUnder(one.id, one.position.x + CARD.width / 2, one.position.y + 35)
    const { placed } = standing()
    bench.edit('Move a card', d =>
      all.reduce((x, n) => {
        const was = placed.find(p => p.id === n.id)
        const a = was && findElement(x, n.id)?.attributes
        return was && a
          ? placeAt(
              x,
              n.id,
              Number(a.xpos ?? 0) * CELL.x + n.position.x - was.x,
              Number(a.ypos ?? 0) * CELL.y + n.position.y - was.y,
            )
          : x
      }, withPlaces(d)),
    )
    if (onto) bench.edit(`Put ${one.id} into a wire`, d => insertOnWire(d, one.id, onto.target, onto.input))
    else route()
  }
  return { paths, route, began, dragged, moved }
}
