import type { MenuItem } from './menu-item'
import type { useLayerEdits } from '../section/useLayerEdits'
import { useActionItems } from './useActionItems'

/**
 * Menu of a layer of the cross-section.
 * @param insertions what can be laid on it
 */
export function useLayerMenu(
  { layerOf, select }: ReturnType<typeof useLayerEdits>,
  insertions: (node: string) => MenuItem[],
) {
  const bench = useBench()
  const action = useActionItems()
  return (at: Element): MenuItem[] => {
    const node =
      at.closest<HTMLElement>('[data-layer]')?.dataset.layer ??
      at.closest('.label')?.querySelector<HTMLElement>('[data-layer]')?.dataset.layer ??
      at.closest<SVGElement>('[data-band]')?.dataset.band
    const l = node !== undefined ? layerOf(node) : undefined
    if (!l || node === undefined) return []
    const pick = () => select(node)
    const alone = action('alone', bench.layerAlone === node ? 'With the others' : 'Alone', pick)
    return [
      { type: 'label', label: l.title },
      ...(l.kind === 'stock'
        ? [alone]
        : [
            action('off', l.off ? 'On' : 'Off', pick),
            alone,
            ...(l.kind === 'cut' ? [] : [action('double', 'Double', pick)]),
            action('remove', 'Take out', pick),
          ]),
      action('curves', 'Curves', pick),
      { type: 'label', label: 'Lay on it' },
      ...insertions(node),
    ]
  }
}
