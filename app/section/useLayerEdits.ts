import { duplicateLayer, moveLayer } from '../../core/network/layer-order'
import { removeLayer, setLayerOff } from '../../core/network/layers'

/** What is done to layers of the section: picked, switched, moved, doubled, taken out. */
export function useLayerEdits() {
  const bench = useBench()

  const select = (node: string) => {
    bench.layer = node
    bench.node = null
  }
  const layerOf = (node: string) => bench.layers.find(l => l.node === node)
  function toggle(node: string): void {
    const l = layerOf(node)
    if (l && l.kind !== 'stock')
      bench.edit(`${l.title} ${l.off ? 'on' : 'off'}`, d => setLayerOff(d, node, !l.off))
  }
  function remove(node: string): void {
    const l = layerOf(node)
    if (l && l.kind !== 'stock' && bench.edit(`Take out ${l.title}`, d => removeLayer(d, node)))
      select(bench.layers.at(-1)?.node ?? '')
  }
  function double(node: string): void {
    let name = ''
    if (
      bench.edit(`Double ${layerOf(node)?.title ?? node}`, d => {
        const r = duplicateLayer(d, bench.materialName, node)
        name = r.name
        return r.document
      })
    )
      select(name)
  }
  const move = (node: string, over: string) =>
    bench.edit(`Move ${layerOf(node)?.title ?? node}`, d => moveLayer(d, bench.materialName, node, over))
  /** Moves the selected layer one place up or down. */
  function shift(by: 1 | -1): void {
    const at = bench.layers.findIndex(l => l.node === bench.layer)
    const over = bench.layers[by > 0 ? at + 1 : at - 2]
    if (at > 0 && over) move(bench.layers[at]!.node, over.node)
  }
  function keys(e: KeyboardEvent): void {
    if (e.key !== 'ArrowUp' && e.key !== 'ArrowDown') return
    e.preventDefault()
    e.stopPropagation()
    const by = e.key === 'ArrowUp' ? 1 : -1
    if (e.altKey) {
      shift(by)
      return
    }
    const next = bench.layers[bench.layers.findIndex(l => l.node === bench.layer) + by]
    if (next) {
      select(next.node)
      void nextTick(() => document.querySelector<HTMLElement>(`[data-layer="${CSS.escape(next.node)}"]`)?.focus())
    }
  }

  return { select, layerOf, toggle, remove, double, move, keys }
}
