import { findElement } from '../../core/network/document'
import { addNode, splitPath } from '../../core/network/edit'
import { insertOnWire } from '../../core/network/splice'
import type { NetworkActions } from './useBenchActions'

/** Adds a node: into the picked wire, beside the picked node inside a group, else in the middle of what is seen. */
export function addToNetwork(network: NetworkActions | undefined, category: string, type: string): void {
  const bench = useBench()
  const at = network?.middle() ?? { x: 0, y: 0 }
  let path = ''
  const wire = network?.pickedWire()
  // beside the picked node where that is inside a group
  const [group] = splitPath(bench.node ?? '')
  const beside = group && bench.document ? findElement(bench.document, bench.node!)?.attributes : undefined
  if (
    bench.edit(`Add ${category}`, d => {
      const r = beside
        ? addNode(d, group, category, type, Number(beside.xpos ?? 0), Number(beside.ypos ?? 0) + 1)
        : addNode(d, '', category, type, at.x, at.y)
      path = r.path
      return wire ? insertOnWire(r.document, path, wire.target, wire.input) : r.document
    })
  )
    bench.node = path
}
