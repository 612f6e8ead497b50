import type { Draft, DraftSummary } from '../../shared/api'

/** After how long without a sign of life work of another browser counts as left, ms. */
const LEFT = 600_000

/**
 * Which drafts of a project are left by their pages, each once, the newest first: those of this browser whose pages are
 * gone, and those of others that have rested.
 * @param open pages of this browser that are open
 * @returns for each whether the browser's own copy is the newer one
 */
export function foundDrafts(
  local: readonly Draft[],
  server: readonly DraftSummary[],
  { person, open, now }: { person: string; open: ReadonlySet<string>; now: number },
): (DraftSummary & { local: Draft | null })[] {
  const mine = new Map(local.map(d => [d.tab, d]))
  const of = new Map<string, DraftSummary & { local: Draft | null }>()
  for (const d of server) {
    const own = mine.get(d.tab)
    of.set(d.tab, own ? { ...own, local: own } : { ...d, local: null })
  }
  for (const d of local) if (!of.has(d.tab)) of.set(d.tab, { ...d, local: d })
  const left = (d: DraftSummary) =>
    !open.has(d.tab) && (d.person === person || d.person === '' || now - Date.parse(d.updated) > LEFT)
  return [...of.values()].filter(left).sort((a, b) => Date.parse(b.updated) - Date.parse(a.updated))
}
