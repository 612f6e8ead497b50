import { findElement, type Element } from '../../core/network/document'
import { addNode, definitionOf, splitPath } from '../../core/network/edit'
import { typesOf } from '../../core/network/retype'
import { insertOnWire } from '../../core/network/splice'
import { fittingInput, meantFor } from '../words/fits'
import { beginWith } from './begin'
import { drive } from './drive'
import type { NetworkActions } from './useBenchActions'

/** Types that nodes have unless a wire asks for something else: pictures are of colours, a place on a part has two. */
const USUAL: Readonly<Record<string, string>> = { image: 'color3', tiledimage: 'color3', texcoord: 'vector2' }

/** Type of an input of a node. */
const inputType = (document: Element, node: string, input: string): string | undefined => {
  const e = findElement(document, node)
  return e && definitionOf(e)?.inputs.find(i => i.name === input)?.type
}

/**
 * Adds a node: into the picked wire, else beside the picked node, inside its group if it is in one, else in the middle
 * of what is seen; never on another card. Its type is that of the wire, else the most usual.
 */
export function addToNetwork(network: NetworkActions | undefined, category: string): void {
  const bench = useBench()
  const document = bench.document
  if (!document) return
  const { atHand } = useStage()
  const { loose } = bench
  bench.loose = null
  const wire = loose ? undefined : network?.pickedWire()
  const types = typesOf(category)
  const wanted =
    (loose && (meantFor(category, loose.type)?.type ?? loose.type)) ??
    (wire && inputType(document, wire.target, wire.input))
  const usual = USUAL[category] ?? types.at(0) ?? 'float'
  const type = wanted !== undefined && types.includes(wanted) ? wanted : usual
  const picked = bench.node !== null ? findElement(document, bench.node)?.attributes : undefined
  // a loose wire may leave its group: what it goes into stands outside
  const [group] = loose ? [''] : splitPath(bench.node ?? '')
  const at =
    loose?.at ??
    (picked?.xpos !== undefined
      ? { x: Number(picked.xpos), y: Number(picked.ypos ?? 0) + 1 }
      : (network?.middle() ?? { x: 0, y: 0 }))
  let path = ''
  if (
    bench.edit(`Add ${category}`, d => {
      const r = addNode(d, group, category, type, at.x, at.y)
      path = r.path
      const wired = wire ? insertOnWire(r.document, path, wire.target, wire.input) : r.document
      const input = loose && fittingInput(category, loose.type)
      return beginWith(
        loose && input ? drive(wired, loose.from, path, input, loose.output, atHand.extent) : wired,
        path,
        atHand,
      )
    })
  ) {
    bench.node = path
    void nextTick(() => network?.show(path))
  }
}
