import { isBackdrop } from '../../core/network/backdrops'
import { findElement } from '../../core/network/document'
import { isGroup } from '../../core/network/groups'
import type { MenuItem } from './menu-item'
import { useActionItems } from './useActionItems'

/** Menu of the network: of the card under the pointer, or of the canvas. */
export function useNodeMenu() {
  const bench = useBench()
  const action = useActionItems()
  return (at: Element): MenuItem[] => {
    const id = at.closest<HTMLElement>('.vue-flow__node')?.dataset.id
    const node = id !== undefined && bench.document ? findElement(bench.document, id) : undefined
    if (id === undefined || !node)
      return [
        action('find', 'Add a node …'),
        action('note', 'Note'),
        action('tidy', 'Tidy'),
        action('network', 'Large, or as it was'),
        action('curves', 'Curves of the stack'),
      ]
    const pick = () => {
      bench.node = id
    }
    return [
      { type: 'label', label: id },
      action('rename', 'Rename', pick),
      ...(isBackdrop(node)
        ? []
        : [
            action('tap', bench.tap?.node === id ? 'No tap' : 'Tap: show output on the model', pick),
            ...(isGroup(node)
              ? [action('open', 'Open in place, or close', pick), action('ungroup', 'Take apart', pick)]
              : [
                  action('off', node.attributes.wl_off === 'true' ? 'On' : 'Off', pick),
                  action('group', 'Group with what is picked', pick),
                ]),
            action('frameNodes', 'Titled frame about what is picked', pick),
          ]),
      action('remove', 'Remove', pick),
    ]
  }
}
