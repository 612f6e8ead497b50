import { z } from 'zod'
import { keep, readKept } from '../input/kept'

/** Where this browser keeps an arrangement. */
const STORE = 'wavelume-panes-2'

/**
 * The arrangement of the panes: sizes by a hand are remembered, and one pane can be made large.
 * @param changes what else moves the borders
 */
export function usePanes(changes: Ref<unknown>[]) {
  const large = ref<'none' | 'view' | 'network'>('none')
  const panes = ref<Record<string, number[]>>(readKept(STORE, z.record(z.string(), z.array(z.number())), {}))
  /** Names splitters and says where they stand, for readers that cannot see them. */
  function describeSplitters(): void {
    document.querySelectorAll<HTMLElement>('.splitpanes__splitter').forEach(s => {
      const before = s.previousElementSibling as HTMLElement | null
      const whole = s.parentElement
      const across = whole?.classList.contains('splitpanes--vertical')
      const share =
        before && whole
          ? across
            ? before.offsetWidth / whole.offsetWidth
            : before.offsetHeight / whole.offsetHeight
          : 0
      s.setAttribute('aria-valuenow', String(Math.round(share * 100)))
      s.setAttribute('aria-label', across ? 'Border between columns' : 'Border between panes')
    })
  }
  watch([...changes, large], () => setTimeout(describeSplitters, 300))
  const resized = (name: string, e: { panes: { size: number }[] }) => {
    if (large.value !== 'none' || e.panes.some(p => p.size < 3)) return
    panes.value = { ...panes.value, [name]: e.panes.map(p => p.size) }
    keep(STORE, panes.value)
    describeSplitters()
  }
  const part = (name: string, i: number, fallback: number) => panes.value[name]?.[i] ?? fallback
  /** Share of the column between the others, which the picture takes all of when it is large. */
  const middle = computed(() => {
    const right = part('columns', 2, 25)
    return large.value === 'none' ? part('columns', 1, 64.7) : large.value === 'view' ? 100 : 100 - right
  })
  return { large, middle, part, resized }
}
