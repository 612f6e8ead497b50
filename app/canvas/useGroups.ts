import { childNamed } from '../../core/network/document'
import { groupNodes, isGroup, ungroup } from '../../core/network/groups'
import { withPlaces } from './with-places'

/**
 * Groups of the network: made, taken apart, opened in place.
 * @param picked names of the picked nodes
 * @param rebuild lays the canvas out anew
 */
export function useGroups(picked: () => string[], rebuild: () => void) {
  const bench = useBench()
  /** Groups that are opened in place, by material. */
  const opened = shallowReactive(new Map<string, ReadonlySet<string>>())
  const open = computed(() => opened.get(bench.materialKey ?? '') ?? new Set<string>())
  function toggleGroup(name: string): void {
    const next = new Set(open.value)
    if (!next.delete(name)) next.add(name)
    opened.set(bench.materialKey ?? '', next)
    // what is inside a closed group is not at hand any more
    if (!next.has(name) && bench.node?.startsWith(name + '/')) bench.node = name
  }
  provide('toggle-group', toggleGroup)
  /** Puts the picked nodes into a group, or takes the picked group apart. */
  function groupPicked(): void {
    const names = picked()
    const done = bench.edit('Group nodes', d => {
      const r = groupNodes(withPlaces(d), names)
      toggleGroup(r.name)
      bench.node = r.name
      return r.document
    })
    if (done) rebuild()
  }
  function ungroupPicked(): void {
    const name = bench.node?.split('/')[0]
    if (name === undefined) return
    const done = bench.edit(`Take ${name} apart`, d => {
      const r = ungroup(d, name)
      bench.node = r.names[0] ?? null
      return r.document
    })
    if (done) rebuild()
  }
  /** Opens the picked group in place, or closes the one that holds the picked node. */
  function openPicked(): void {
    const name = bench.node?.split('/')[0]
    const e = name !== undefined && bench.document && childNamed(bench.document, name)
    if (e && isGroup(e)) toggleGroup(name!)
  }
  return { open, toggleGroup, groupPicked, ungroupPicked, openPicked }
}
