import { entitle } from '../../core/network/names'

/** What is given a name where it stands: a node, group, note or frame of the network, a layer, the material. */
export type Named = 'node' | 'layer' | 'material'

/**
 * The name of one thing, changed where it stands.
 * @param of what the name is of: for nodes and layers their path in the material's document
 */
export function useRenaming(kind: Named, of: () => string | null) {
  const bench = useBench()
  const editing = computed(() => bench.renaming?.kind === kind && bench.renaming.of === of())
  const begin = (): void => {
    const name = of()
    if (name !== null) bench.renaming = { kind, of: name }
  }
  const close = (): void => {
    bench.renaming = null
  }
  /** Keeps a name; one of nothing but blanks gives back the name in the document. */
  function keep(text: string): void {
    const name = of()
    if (name === null) return
    if (kind === 'material') bench.renameMaterial(name, text)
    else bench.edit(`Rename to ${text}`, d => entitle(d, name, text))
  }
  return { editing, begin, close, keep }
}
