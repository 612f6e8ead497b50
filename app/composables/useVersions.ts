import equal from 'fast-deep-equal/es6'
import type { Draft, SaveConflict } from '../../shared/api'

/** How long work rests before a draft of it is kept, ms. */
const REST = 2500

/** Saving of the open project: versions, drafts of unsaved work, and what to do when somebody else has saved. */
export function useVersions() {
  const bench = useBench()
  const stage = useStage()
  const say = useSay()
  /** Unsaved work of an earlier session. */
  const offered = shallowRef<Draft | null>(null)
  /** A save that was refused: their version, and ours that is kept beside it. */
  const conflict = shallowRef<(SaveConflict & { theirs: string | null; ours: string | null }) | null>(null)
  let timer: ReturnType<typeof setTimeout> | undefined

  async function keepDraft(): Promise<void> {
    const p = bench.project
    if (!p || !bench.dirty) return
    try {
      await settleOffer(p.id)
      await api.keepDraft(p.id, p.head, bench.stateToSave())
    } catch {
      /* the next rest tries again; the page itself warns before it is left */
    }
  }
  watch(
    () => bench.state,
    () => {
      clearTimeout(timer)
      timer = setTimeout(() => void keepDraft(), REST)
    },
  )
  onBeforeUnmount(() => clearTimeout(timer))

  /**
   * Work has gone on while earlier unsaved work was still on offer: that is kept as a version beside the line, so
   * that neither is lost.
   */
  async function settleOffer(project: string): Promise<void> {
    const d = offered.value
    if (!d) return
    offered.value = null
    const kept = await api.save(
      project,
      0,
      d.state,
      `Unsaved work of ${new Date(d.updated).toLocaleString('en-GB')}`,
    )
    if ('conflict' in kept) say.note(`The earlier unsaved work is kept as v${kept.conflict.kept}, beside the line`)
  }

  /** Asks for unsaved work after a project was opened. */
  async function lookForDraft(): Promise<void> {
    const p = bench.project
    if (!p) return
    const draft = await api.draft(p.id).catch(() => null)
    if (draft && !equal(draft.state, bench.saved)) offered.value = draft
  }
  function takeDraft(): void {
    const d = offered.value
    offered.value = null
    if (d) bench.change('Take up unsaved work', d.state)
  }
  async function dropDraft(): Promise<void> {
    offered.value = null
    if (bench.project) await api.dropDraft(bench.project.id).catch(() => undefined)
  }

  /** Small picture of what the view shows, as an asset. */
  async function thumbnail(): Promise<string | null> {
    const picture = stage.session?.picture()
    const loader = stage.loader()
    if (!picture || !loader) return null
    return api
      .putAsset(await loader.png(picture.width, picture.height, picture.rgb, stage.look, 320), 'version.png')
      .catch(() => null)
  }

  /** Saves a version. @param over saves on top of this version instead of the one that was opened */
  async function save(note = '', over?: number): Promise<void> {
    const p = bench.project
    const at = bench.state
    if (!p || !at) return
    try {
      const small = await thumbnail()
      const result = await api.save(p.id, over ?? p.head, bench.stateToSave(), note, small)
      if ('conflict' in result) {
        const theirs = (await api.versions(p.id)).find(v => v.number === result.conflict.head)?.thumbnail ?? null
        conflict.value = { ...result.conflict, theirs, ours: small }
        return
      }
      bench.project = { ...p, head: result.number }
      bench.saved = at
      say.note(`Saved as v${result.number}`)
      clearTimeout(timer)
      await api.dropDraft(p.id).catch(() => undefined)
    } catch (e) {
      say.fault('Not saved. Your work is still here', messageOf(e))
    }
  }

  /** Puts ours on top of theirs. */
  async function saveOver(): Promise<void> {
    const c = conflict.value
    conflict.value = null
    if (c) await save('Saved over another version', c.head)
  }
  /** Goes on with theirs; ours stays beside it as a version. */
  async function takeTheirs(): Promise<void> {
    const c = conflict.value
    const p = bench.project
    conflict.value = null
    if (!c || !p) return
    try {
      const theirs = await api.version(p.id, c.head)
      bench.change(`Take v${c.head}`, theirs.state)
      bench.project = { ...p, head: c.head }
      bench.saved = theirs.state
    } catch (e) {
      say.fault('Their version was not read', messageOf(e))
    }
  }
  return { offered, conflict, lookForDraft, takeDraft, dropDraft, save, saveOver, takeTheirs }
}
