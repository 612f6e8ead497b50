import { duplicateLayer, moveLayer } from '../../core/network/layer-order'
import { removeLayer, setLayerOff, type Layer } from '../../core/network/layers'

/** What is done to layers of the section: picked, switched, moved, doubled, taken out. */
export function useLayerEdits() {
  const bench = useBench()

  const select = (node: string) => {
    bench.layer = node
    bench.layerPicks = []
    bench.node = null
  }
  /** Picks a layer with those that are picked, or lets go of it. */
  function selectToo(node: string): void {
    const now = bench.pickedLayers.map(l => l.node)
    const next = now.includes(node) ? now.filter(n => n !== node) : [...now, node]
    if (!next.length) return
    bench.layer = next.includes(bench.layer ?? '') ? bench.layer : next[0]!
    bench.layerPicks = next
    bench.node = null
  }
  /** Layers that are picked, but for the stock, which is never off and never goes. */
  const movable = () => bench.pickedLayers.filter(l => l.kind !== 'stock')
  const called = (all: readonly Layer[]) => (all.length === 1 ? all[0]!.title : `${all.length} layers`)
  /** Switches the picked layers off, or on where all of them are off. */
  function togglePicked(): void {
    const all = movable()
    const off = !all.every(l => l.off)
    if (all.length)
      bench.edit(`${called(all)} ${off ? 'off' : 'on'}`, d => all.reduce((x, l) => setLayerOff(x, l.node, off), d))
  }
  function removePicked(): void {
    const all = movable()
    if (all.length && bench.edit(`Take out ${called(all)}`, d => all.reduce((x, l) => removeLayer(x, l.node), d)))
      select(bench.layers.at(-1)?.node ?? '')
  }
  const layerOf = (node: string) => bench.layers.find(l => l.node === node)
  function toggle(node: string): void {
    const l = layerOf(node)
    if (l && l.kind !== 'stock')
      bench.edit(`${l.title} ${l.off ? 'on' : 'off'}`, d => setLayerOff(d, node, !l.off))
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

  return { select, selectToo, layerOf, toggle, togglePicked, removePicked, double, move, keys }
}
