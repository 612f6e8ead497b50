import equal from 'fast-deep-equal/es6'
import type { ProjectState } from '../../shared/api'
import type { Conflict } from '../components/SaveConflict.vue'
import { useDrafts } from '../drafts/useDrafts'
import { useTheirSaves } from '../drafts/useTheirSaves'

/** Saving of the open project: versions, drafts of unsaved work, and what to do when somebody else has saved. */
export function useVersions() {
  const bench = useBench()
  const stage = useStage()
  const say = useSay()
  const drafts = useDrafts()
  /** Two versions to choose from: after a save that was refused, or before one. */
  const conflict = shallowRef<Conflict | null>(null)
  const saving = ref(false)
  const elsewhere = useTheirSaves(saving)
  /** What was saved last, or is being saved, with its camera; and whether what has changed since is to be saved too. */
  let kept: ProjectState | null = null
  let underWay: ProjectState | null = null
  let again = false
  watch(
    () => bench.project?.id,
    () => {
      kept = null
    },
  )

  /** Small picture of what the view shows, as an asset. */
  async function thumbnail(): Promise<string | null> {
    const picture = stage.session?.picture()
    const loader = stage.loader()
    if (!picture || !loader) return null
    return api
      .putAsset(await loader.png(picture.width, picture.height, picture.rgb, stage.look, 320), 'version.png')
      .catch(() => null)
  }
  const thumbnailOf = async (project: string, number: number) =>
    (await api.versions(project)).find(v => v.number === number)?.thumbnail ?? null

  /**
   * Saves a version, one at a time; nothing of what is saved already.
   * @param over saves on top of this version instead of the one that was opened
   */
  async function save(note = '', over?: number): Promise<void> {
    const p = bench.project
    const at = bench.state
    if (!p || !at) return
    const state = bench.stateToSave()
    if (saving.value) {
      again ||= !equal(underWay, state)
      return
    }
    if (note === '' && over === undefined && kept && equal(kept, state)) {
      say.note(`v${p.head} is saved already`)
      return
    }
    saving.value = true
    underWay = state
    try {
      const small = await thumbnail()
      const result = await api.save(p.id, over ?? p.head, state, note, small)
      if ('conflict' in result) {
        conflict.value = { ...result.conflict, theirs: await thumbnailOf(p.id, result.conflict.head), ours: small }
        return
      }
      bench.project = { ...p, head: result.number }
      bench.saved = at
      kept = state
      say.note(`Saved as v${result.number}`)
      void drafts.done()
    } catch (e) {
      say.fault('Not saved. Your work is still here', messageOf(e))
    } finally {
      saving.value = false
      const more = again
      again = false
      if (more && !conflict.value) void save()
    }
  }

  /** Puts ours on top of theirs; before a save it stays as it is. */
  async function saveOver(): Promise<void> {
    const c = conflict.value
    conflict.value = null
    if (!c) return
    if (c.kept === null) elsewhere.pass()
    else await save('Saved over another version', c.head)
  }
  /** Goes on with a version of theirs; ours is a step of undo away, and beside it as a version where it was saved. */
  async function takeTheirs(number = conflict.value?.head): Promise<void> {
    const p = bench.project
    conflict.value = null
    if (number === undefined || !p) return
    try {
      const theirs = await api.version(p.id, number)
      bench.change(`Take v${number}`, theirs.state)
      bench.project = { ...p, head: number }
      bench.saved = theirs.state
      kept = null
    } catch (e) {
      say.fault('Their version was not read', messageOf(e))
    }
  }
  /** Shows both, theirs and what is at hand. */
  async function lookAtBoth(): Promise<void> {
    const p = bench.project
    const head = elsewhere.theirs.value
    if (!p || head === null) return
    const [theirs, ours] = await Promise.all([thumbnailOf(p.id, head).catch(() => null), thumbnail()])
    conflict.value = { head, kept: null, theirs, ours }
  }
  return { drafts, conflict, elsewhere, save, saveOver, takeTheirs, lookAtBoth }
}
