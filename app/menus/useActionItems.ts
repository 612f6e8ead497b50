import { DOING } from '../bench/doing'
import type { MenuItem } from './menu-item'

/** Actions of the key table as items of a menu, each with its key. */
export function useActionItems() {
  const doing = inject(DOING)!
  /**
   * @param label instead of the action's title
   * @param before what is picked first
   */
  return (name: string, label?: string, before: () => void = () => undefined): MenuItem => {
    const action = doing.names.find(a => a.name === name)!
    return {
      label: label ?? action.title,
      kbds: [action.key],
      onSelect: () => {
        before()
        doing.run(name)
      },
    }
  }
}
