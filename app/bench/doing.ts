import type { InjectionKey } from 'vue'

/** What the page of the bench lets its panes do: the actions of the key table, by name, and nodes that are added. */
export interface Doing {
  /** Adds a node beside what is picked, wired where that is meant. */
  add(category: string): void
  /** Picks a node and brings its card into view. */
  show(node: string): void
  run(name: string): void
  readonly names: readonly { name: string; title: string; key: string }[]
}
export const DOING: InjectionKey<Doing> = Symbol('bench-actions')
