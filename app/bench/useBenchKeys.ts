import { fieldOf } from '../input/field'
import type { BenchPanes } from './useBenchActions'
import type { useStills } from './useStills'

/** What the keyboard does on the bench, outside of fields. */
export function useBenchKeys(
  panes: BenchPanes,
  stills: ReturnType<typeof useStills>,
  actions: readonly Action[],
  history: { undo(): void; redo(): void; save(): void },
) {
  const stage = useStage()
  const proofs = useProofs()
  const say = useSay()
  const keys = useKeys([...actions])

  const typing = (e: KeyboardEvent) => {
    const t = fieldOf(e)
    return t !== undefined && (t as HTMLInputElement).type !== 'range'
  }
  function keyDown(e: KeyboardEvent): void {
    const control = e.ctrlKey || e.metaKey
    const key = e.key.toLowerCase()
    if (keys.learning.value !== null) {
      e.preventDefault()
      const said = keys.learn(e)
      if (said) say.note(said)
      return
    }
    if (control && key === 's') {
      e.preventDefault()
      history.save()
      return
    }
    if (typing(e)) return
    if (control && key === 'z') {
      e.preventDefault()
      if (e.shiftKey) history.redo()
      else history.undo()
      return
    }
    if (control || e.altKey) return
    if (key === 'b') {
      stills.hold.value = proofs.chosen !== null
      return
    }
    if (e.key === 'Escape') {
      panes.help.value = false
      stage.aiming = null
      stills.wipe.value = null
      stills.differ.value = false
      return
    }
    if (e.repeat) return
    const a = keys.find(e)
    if (a) {
      e.preventDefault()
      a.run()
    }
  }
  function keyUp(e: KeyboardEvent): void {
    if (e.key.toLowerCase() === 'b') stills.hold.value = false
  }

  onMounted(() => {
    addEventListener('keydown', keyDown)
    addEventListener('keyup', keyUp)
  })
  onBeforeUnmount(() => {
    removeEventListener('keydown', keyDown)
    removeEventListener('keyup', keyUp)
  })
  return keys
}
