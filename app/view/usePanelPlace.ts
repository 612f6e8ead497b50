import { z } from 'zod'
import { follow } from '../input/follow'
import { keep, readKept } from '../input/kept'

/** Where this browser keeps the places of panels. */
const STORE = 'wavelume-panels'
/** How far an arrow key moves a panel, pixels. */
const STEP = 16
/** How near to an edge of the picture a panel is let go to be docked there, pixels. */
const EDGE = 6

const place = z.object({
  /** From the picture's left and top, pixels; none while the panel was never moved. */
  x: z.number().optional(),
  y: z.number().optional(),
  /** The side of the picture where it stands beside it. */
  dock: z.enum(['left', 'right']).optional(),
})
type Place = z.infer<typeof place>

const read = () => readKept(STORE, z.record(z.string(), place), {})

/**
 * Where a panel stands: over the picture, moved by its head or the arrow keys, or docked beside the picture on either
 * side. Remembered by this browser.
 * @param name of the panel, as `stage.panel` has it
 */
export function usePanelPlace(name: string, panel: Readonly<Ref<HTMLElement | undefined>>) {
  const at = shallowRef<Place>(read()[name] ?? {})
  function put(to: Place): void {
    at.value = to
    keep(STORE, { ...read(), [name]: to })
  }
  const spot = () => ({ x: panel.value!.offsetLeft, y: panel.value!.offsetTop })
  function drag(e: PointerEvent): void {
    const picture = panel.value?.offsetParent
    if (at.value.dock || e.button !== 0 || !picture || (e.target as Element).closest('button, input, label'))
      return
    e.preventDefault()
    const from = spot()
    let last: PointerEvent | undefined
    follow(
      e,
      m => {
        last = m
        at.value = { x: from.x + m.clientX - e.clientX, y: from.y + m.clientY - e.clientY }
      },
      () => {
        if (!last) return
        const box = picture.getBoundingClientRect()
        if (last.clientX < box.left + EDGE) put({ ...from, dock: 'left' })
        else if (last.clientX > box.right - EDGE) put({ ...from, dock: 'right' })
        else put(spot())
      },
    )
  }
  function step(e: KeyboardEvent): void {
    const dx = e.key === 'ArrowLeft' ? -STEP : e.key === 'ArrowRight' ? STEP : 0
    const dy = e.key === 'ArrowUp' ? -STEP : e.key === 'ArrowDown' ? STEP : 0
    if (at.value.dock || (!dx && !dy)) return
    e.preventDefault()
    e.stopPropagation()
    const from = spot()
    put({ x: Math.max(0, from.x + dx), y: Math.max(0, from.y + dy) })
  }
  /** Beside the picture, on the side that is nearer, or over it again. */
  function toggleDock(): void {
    const { dock, ...over } = at.value
    const p = panel.value!
    const wide = (p.offsetParent as HTMLElement | null)?.offsetWidth ?? 0
    put(dock ? over : { ...over, dock: p.offsetLeft + p.offsetWidth / 2 > wide / 2 + 1 ? 'right' : 'left' })
  }
  return { at, drag, step, toggleDock }
}
