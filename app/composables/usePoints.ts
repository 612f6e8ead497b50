import { findElement } from '../../core/network/document'
import { insertPoint, movePoint, pointsOf, removePoint } from '../../core/network/points'

/**
 * The points of a ramp or a curve as its editor handles them: one of them is at hand, moved by pointer or keys,
 * added and taken out.
 * @param noun what a point is called there
 */
export function usePoints(node: () => string, noun: string) {
  const bench = useBench()
  const at = ref(0)
  const element = computed(() => (bench.document ? findElement(bench.document, node()) : undefined))
  const points = computed(() => (element.value ? pointsOf(element.value) : []))
  const chosen = computed(() => points.value[at.value] ?? points.value[0])
  const exact = (v: number) => +v.toFixed(4)
  const move = (k: number, position: number, value?: readonly number[]) =>
    bench.edit(
      `${noun} ${k + 1} of ${node()}`,
      d => movePoint(d, node(), k, exact(position), value),
      `${bench.materialKey}/${node()}/${noun}${k}`,
    )
  function add(position: number, value?: readonly number[]): void {
    bench.edit(`${noun} in ${node()}`, d => {
      const r = insertPoint(d, node(), exact(position))
      at.value = r.at
      return value ? movePoint(r.document, node(), r.at, exact(position), value) : r.document
    })
  }
  /** Into the gap after the point at hand; a little beyond the last one, while there is room up to 1. */
  function addAfter(): void {
    const a = points.value[at.value]
    const b = points.value[at.value + 1]
    add(a ? (b ? (a.position + b.position) / 2 : Math.min(a.position + 0.1, Math.max(1, a.position))) : 0.5)
  }
  function remove(): void {
    if (bench.edit(`Take a ${noun.toLowerCase()} out of ${node()}`, d => removePoint(d, node(), at.value)))
      at.value = Math.max(0, at.value - 1)
  }
  /**
   * Arrows move the point at hand, further with Shift; up and down its value where it has one number. Delete takes
   * it out.
   */
  function keys(e: KeyboardEvent): void {
    const p = points.value[at.value]
    const by = e.shiftKey ? 0.05 : 0.005
    const step = { ArrowLeft: [-by, 0], ArrowRight: [by, 0], ArrowUp: [0, by], ArrowDown: [0, -by] }[e.key]
    if (!p) return
    if (step && (step[0] || p.value.length === 1))
      move(at.value, p.position + step[0]!, p.value.length === 1 ? [exact(p.value[0]! + step[1]!)] : undefined)
    else if (e.key === 'Delete' || e.key === 'Backspace') remove()
    else return
    e.preventDefault()
    e.stopPropagation()
  }
  return { at, element, points, chosen, move, add, addAfter, remove, keys }
}
