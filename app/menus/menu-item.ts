import type { ContextMenuItem } from '@nuxt/ui'

/** Something that a menu of a pane offers. */
export type MenuItem = ContextMenuItem
