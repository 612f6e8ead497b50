import type { MenuItem } from './menu-item'
import { usePartEdits } from '../parts/usePartEdits'

/** Menu of a part: in the list of parts and in the picture. */
export function usePartMenu() {
  const bench = useBench()
  const { isHidden, toggle, alone, frame } = usePartEdits()
  return (name: string): MenuItem[] => [
    { type: 'label', label: name },
    { label: 'Pick', disabled: bench.part === name, onSelect: () => bench.selectPart(name) },
    { label: isHidden(name) ? 'Show' : 'Hide', onSelect: () => void toggle(name) },
    { label: bench.partAlone === name ? 'With the others' : 'Alone', onSelect: () => alone(name) },
    { label: 'Fit into the picture', onSelect: () => frame(name) },
    {
      label: 'Rename its material',
      onSelect: () => {
        bench.selectPart(name)
        if (bench.materialKey !== null) bench.renaming = { kind: 'material', of: bench.materialKey }
      },
    },
  ]
}
