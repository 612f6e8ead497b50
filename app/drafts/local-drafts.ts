/** Unsaved work in the browser's own store: kept at once, whether or not the server answers. */
import { createStore, del, entries, set } from 'idb-keyval'
import type { Draft } from '../../shared/api'

let store: ReturnType<typeof createStore> | undefined
const drafts = () => (store ??= createStore('wavelume-drafts', 'drafts'))
const keyOf = (project: string, tab: string): string => `${project} ${tab}`

export const keepLocal = (project: string, draft: Draft): Promise<void> =>
  set(keyOf(project, draft.tab), draft, drafts())

export const dropLocal = (project: string, tab: string): Promise<void> => del(keyOf(project, tab), drafts())

/** Drafts of a project that this browser keeps. */
export const localDrafts = async (project: string): Promise<Draft[]> =>
  (await entries<string, Draft>(drafts()))
    .filter(([key]) => key.startsWith(`${project} `))
    .map(([, draft]) => draft)
