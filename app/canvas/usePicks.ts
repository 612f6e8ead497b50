import type { useVueFlow } from '@vue-flow/core'
import { removeNodes, setAttribute } from '../../core/network/edit'
import { unplug } from '../../core/network/unplug'
import { findElement } from '../../core/network/document'
import type { CanvasWire } from './arrange'

/** What is picked on the canvas, and what is done to all of it: each is one step. */
export function usePicks(flow: ReturnType<typeof useVueFlow>, wires: Readonly<Ref<readonly CanvasWire[]>>) {
  const bench = useBench()
  /** Cards that are picked: those of a box, or the one at hand. */
  const picked = () => [
    ...new Set([...flow.getSelectedNodes.value.map(n => n.id), ...(bench.node !== null ? [bench.node] : [])]),
  ]
  // the properties are those of the first, until another is meant
  watch(
    () => flow.getSelectedNodes.value.map(n => n.id),
    selected => {
      // what went into a group, or was taken out, is not at hand any more
      const ids = selected.filter(id => bench.document && findElement(bench.document, id))
      bench.picks = ids
      const first = ids.at(0)
      if (ids.length > 1 && first !== undefined && (bench.node === null || !ids.includes(bench.node)))
        bench.node = first
    },
  )
  /** Wires that are picked, by id: those, or cards, not both. */
  const wirePicks = shallowRef<ReadonlySet<string>>(new Set())
  /** @param also whether what was picked stays so */
  function pickWire(id: string, also: boolean): void {
    const kept = also ? wirePicks.value : new Set<string>()
    wirePicks.value = kept.has(id) ? new Set([...kept].filter(w => w !== id)) : new Set([...kept, id])
    flow.removeSelectedElements()
    bench.node = null
  }
  watch(
    [() => bench.node, () => bench.materialKey, () => flow.getSelectedNodes.value.length],
    ([node, , cards]) => {
      if (node !== null || cards > 0) wirePicks.value = new Set()
    },
  )
  const wiresPicked = () =>
    wires.value.filter(w => wirePicks.value.has(w.id) && !w.targetHandle.startsWith('out:'))
  /** Whether something of the network is picked: Delete and its like mean that, and nothing else. */
  const hasPicked = () => picked().length > 0 || wiresPicked().length > 0
  /** Removes the picked cards, in one step; where no card is picked, the picked wires. */
  function removeSelected(): void {
    const names = picked()
    if (names.length) {
      const label = names.length === 1 ? `Remove ${names.join()}` : `Remove ${names.length} nodes`
      if (bench.edit(label, d => removeNodes(d, names))) bench.node = null
      return
    }
    const cut = wiresPicked()
    if (cut.length)
      bench.edit(cut.length === 1 ? 'Cut a wire' : `Cut ${cut.length} wires`, d =>
        cut.reduce((x, e) => unplug(x, e.target, e.targetHandle), d),
      )
  }
  /** Switches the picked cards off, or on where all of them are off. */
  function toggleSelected(): void {
    const names = picked().filter(n => bench.document && findElement(bench.document, n))
    const off = (n: string) => findElement(bench.document!, n)?.attributes.wl_off === 'true'
    const to = names.every(off) ? undefined : 'true'
    bench.edit(names.length === 1 ? `${names.join()} off or on` : `${names.length} nodes off or on`, d =>
      names.reduce((x, n) => setAttribute(x, n, 'wl_off', to), d),
    )
  }

  /** The picked wire, for what is added next. */
  function pickedWire(): { target: string; input: string } | undefined {
    const w = wiresPicked().at(0)
    return w && { target: w.target, input: w.targetHandle }
  }

  return { picked, pickedWire, wirePicks, pickWire, hasPicked, removeSelected, toggleSelected }
}
