import { findElement, inputOf } from '../../core/network/document'
import { clearInput } from '../../core/network/edit'
import type { MenuItem } from './menu-item'
import { labelOf } from '../words/labels'
import { useActionItems } from './useActionItems'

/**
 * Menu of a row of the properties.
 * @param subject the node whose rows they are, where a row does not say another
 */
export function useRowMenu(subject: () => string | null) {
  const bench = useBench()
  const action = useActionItems()
  return (at: Element): MenuItem[] => {
    const row = at.closest<HTMLElement>('[data-input]')
    const input = row?.dataset.input
    const node = row?.dataset.node ?? subject()
    const element = node != null && bench.document ? findElement(bench.document, node) : undefined
    if (input === undefined || node == null || !element) return []
    const stated = inputOf(element, input)?.attributes
    const wired = stated !== undefined && stated.value === undefined
    const label = labelOf(input)
    return [
      { type: 'label', label },
      ...(wired && stated?.nodename !== undefined
        ? [
            {
              label: 'Show what drives it',
              onSelect: () => {
                bench.node = (node.includes('/') ? node.split('/').at(0) + '/' : '') + stated.nodename
              },
            },
          ]
        : []),
      {
        label: wired ? 'Unplug' : 'As it comes',
        disabled: stated === undefined,
        onSelect: () => void bench.edit(`${label} as it comes`, d => clearInput(d, node, input)),
      },
      ...(bench.numberAt?.input === input && bench.numberAt.node === node ? [action('strip', 'Test strip')] : []),
    ]
  }
}
