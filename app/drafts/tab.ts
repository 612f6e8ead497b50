/** This page's name for itself, and its browser's: drafts are kept by them, so that none overwrites another's. */

const PERSON = 'wavelume-person'
const lockOf = (tab: string): string => `wavelume-tab-${tab}`

/** The browser's name for itself, made once. */
export function person(): string {
  let name = localStorage.getItem(PERSON)
  if (name === null || !/^[a-z0-9-]{1,64}$/.test(name)) localStorage.setItem(PERSON, (name = crypto.randomUUID()))
  return name
}

/** A name for a page that is opened; it counts as open until it is left, however that happens. */
export function openTab(): { tab: string; close(): void } {
  const tab = crypto.randomUUID()
  let close = () => {}
  const left = new Promise<void>(resolve => {
    close = resolve
  })
  void navigator.locks.request(lockOf(tab), () => left)
  return { tab, close: () => close() }
}

/** Names of the pages of this browser that are open. */
export async function openTabs(): Promise<ReadonlySet<string>> {
  const { held = [] } = await navigator.locks.query()
  const prefix = lockOf('')
  return new Set(held.flatMap(({ name }) => (name?.startsWith(prefix) ? [name.slice(prefix.length)] : [])))
}
