import equal from 'fast-deep-equal/es6'
import type { Draft } from '../../shared/api'
import { foundDrafts } from './found-drafts'
import { dropLocal, keepLocal, localDrafts } from './local-drafts'
import { openTab, openTabs, person } from './tab'

/** How long after a change unsaved work is kept in the browser, and on the server, ms: while changes go on, too. */
const REST = { browser: 300, server: 2500 }

/** Unsaved work: kept as it is done, and found again when its page was left. */
export function useDrafts() {
  const bench = useBench()
  const say = useSay()
  const { tab, close } = openTab()
  /** Unsaved work that was found, the newest first; the first is on offer. */
  const found = shallowRef<readonly Draft[]>([])
  const offered = computed(() => found.value[0] ?? null)
  /** Drafts whose work goes on here: they go once that is kept. */
  let taken: string[] = []
  /** What of keeping failed, and was said. */
  const failing = { browser: false, server: false }
  const timers: Partial<Record<keyof typeof REST, ReturnType<typeof setTimeout>>> = {}

  const drop = async (project: string, of: string): Promise<void> => {
    await Promise.allSettled([dropLocal(project, of), api.dropDraft(project, of)])
  }
  async function keep(where: keyof typeof REST): Promise<void> {
    const p = bench.project
    if (!p || !bench.state || !bench.dirty) return
    const draft = { person: person(), base: p.head, state: bench.stateToSave() }
    try {
      if (where === 'browser') {
        // the browser's store takes plain values
        const plain = JSON.parse(JSON.stringify(draft)) as typeof draft
        await keepLocal(p.id, { ...plain, tab, updated: new Date().toISOString() })
      } else {
        await api.keepDraft(p.id, tab, draft)
        const gone = taken
        taken = []
        await Promise.all(gone.map(t => drop(p.id, t)))
      }
      failing[where] = false
    } catch (e) {
      if (failing[where]) return
      failing[where] = true
      const place = where === 'browser' ? 'in this browser' : 'on the server'
      say.fault(`Unsaved work could not be kept ${place}`, messageOf(e))
    }
  }
  watch(
    () => bench.state,
    () => {
      for (const where of ['browser', 'server'] as const)
        timers[where] ??= setTimeout(() => {
          timers[where] = undefined
          void keep(where)
        }, REST[where])
    },
  )
  const still = () => Object.values(timers).forEach(clearTimeout)
  onBeforeUnmount(() => {
    still()
    close()
  })

  /** Looks for unsaved work after a project was opened. */
  async function look(): Promise<void> {
    const p = bench.project
    if (!p) return
    const [local, server, open] = await Promise.all([
      localDrafts(p.id).catch(() => []),
      api.drafts(p.id).catch(() => []),
      openTabs(),
    ])
    const all: Draft[] = []
    for (const d of foundDrafts(local, server, { person: person(), open, now: Date.now() })) {
      const draft = d.local ?? (await api.draft(p.id, d.tab).catch(() => null))
      if (draft && equal(draft.state, bench.saved)) await drop(p.id, draft.tab)
      else if (draft) all.push(draft)
    }
    found.value = all
  }
  const next = () => {
    found.value = found.value.slice(1)
  }
  /** Goes on with the work on offer, from the version that it began from: saving it over a newer one asks. */
  function take(): void {
    const d = offered.value
    if (!d || !bench.project) return
    next()
    taken.push(d.tab)
    bench.change('Take up unsaved work', d.state)
    bench.project = { ...bench.project, head: Math.min(d.base, bench.project.head) }
  }
  /** Keeps the work on offer as a version beside the line. */
  async function keepBeside(): Promise<void> {
    const d = offered.value
    if (!d || !bench.project) return
    const { id } = bench.project
    try {
      const kept = await api.save(id, 0, d.state, `Unsaved work of ${new Date(d.updated).toLocaleString('en-GB')}`)
      next()
      await drop(id, d.tab)
      if ('conflict' in kept) say.note(`The unsaved work is kept as v${kept.conflict.kept}, beside the line`)
    } catch (e) {
      say.fault('The unsaved work was not kept as a version', messageOf(e))
    }
  }
  async function forget(): Promise<void> {
    const d = offered.value
    if (!d || !bench.project) return
    next()
    await drop(bench.project.id, d.tab)
  }
  /** All is saved: what was kept of it is not needed. */
  async function done(): Promise<void> {
    const p = bench.project
    if (!p || bench.dirty) return
    still()
    timers.browser = timers.server = undefined
    const gone = [tab, ...taken]
    taken = []
    await Promise.all(gone.map(t => drop(p.id, t)))
  }
  return { offered, count: computed(() => found.value.length), look, take, keepBeside, forget, done }
}
