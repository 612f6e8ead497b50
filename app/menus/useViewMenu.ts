import type { MenuItem } from './menu-item'
import { useActionItems } from './useActionItems'
import { usePartMenu } from './usePartMenu'

/**
 * Menu of the picture: of the part under the pointer, and of the picture itself.
 * @param part under the pointer
 */
export function useViewMenu(part: () => string | null) {
  const action = useActionItems()
  const partMenu = usePartMenu()
  return (): MenuItem[] => {
    const name = part()
    return [
      ...(name !== null ? partMenu(name) : []),
      { type: 'label', label: 'Picture' },
      action('keep'),
      action('fit', 'Fit the model'),
      action('region', 'Region'),
      action('white', 'Pick what is white'),
      action('probe'),
      action('picture', 'Large, or as it was'),
    ]
  }
}
