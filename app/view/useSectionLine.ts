import { project, rayThrough } from '../../core/scene/orbit'
import { follow } from '../input/follow'

/** Half the length of A–A before it is drawn otherwise, pixels. */
const HALF = 44
/** Rays along A–A. */
const RAYS = 72
export interface Line {
  x0: number
  y0: number
  x1: number
  y1: number
}

/**
 * The line A–A along which the material is cut, drawn on the picture.
 * @param section receives its rays
 */
export function useSectionLine(
  size: Readonly<{ width: number; height: number }>,
  section: Ref<Float64Array | null>,
) {
  const bench = useBench()
  const stage = useStage()
  /**
   * Where A–A lies: as it was drawn, or about the point that was clicked last; about a part's middle before that.
   */
  const drawnLine = ref<{ part: string; line: Line } | null>(null)
  const across = (x: number, y: number): Line => ({ x0: x - HALF, y0: y, x1: x + HALF, y1: y })
  function middleOfPart(): { x: number; y: number } | undefined {
    const g = stage.geometry
    const c = bench.camera
    const i = g?.partNames.indexOf(bench.part ?? '') ?? -1
    if (!g || !c || i < 0) return undefined
    const b = g.partBounds.subarray(i * 6, i * 6 + 6)
    const at = project(
      c,
      [0, 1, 2].map(k => (b[k]! + b[k + 3]!) / 2),
      size.width,
      size.height,
    )
    return (
      at && {
        x: Math.min(size.width - HALF, Math.max(HALF, at.x)),
        y: Math.min(size.height - 10, Math.max(10, at.y)),
      }
    )
  }
  const line = computed<Line>(() => {
    if (drawnLine.value?.part === bench.part) return drawnLine.value!.line
    const at = middleOfPart() ?? { x: size.width * 0.5, y: size.height * 0.6 }
    return across(at.x, at.y)
  })
  /** Draws A–A: one of its ends, or the whole line, moved by some pixels. */
  function moveLine(what: 'start' | 'end' | 'line', dx: number, dy: number): void {
    if (bench.part === null) return
    const l = { ...line.value }
    const x = (v: number) => Math.min(size.width, Math.max(0, v))
    const y = (v: number) => Math.min(size.height, Math.max(0, v))
    if (what !== 'end') {
      l.x0 = x(l.x0 + dx)
      l.y0 = y(l.y0 + dy)
    }
    if (what !== 'start') {
      l.x1 = x(l.x1 + dx)
      l.y1 = y(l.y1 + dy)
    }
    drawnLine.value = { part: bench.part, line: l }
  }
  function lineDown(what: 'start' | 'end' | 'line', e: PointerEvent): void {
    let { clientX, clientY } = e
    follow(e, m => {
      moveLine(what, m.clientX - clientX, m.clientY - clientY)
      ;({ clientX, clientY } = m)
    })
  }
  function lineKey(what: 'start' | 'end', e: KeyboardEvent): void {
    const d = { ArrowLeft: [-6, 0], ArrowRight: [6, 0], ArrowUp: [0, -6], ArrowDown: [0, 6] }[e.key]
    if (!d) return
    e.preventDefault()
    e.stopPropagation()
    moveLine(what, d[0]!, d[1]!)
  }
  watch(
    [line, () => stage.drawn?.passes === 1, () => bench.part],
    () => {
      const c = bench.camera
      const { x0, y0, x1, y1 } = line.value
      if (!c) return
      const rays = new Float64Array(RAYS * 6)
      for (let i = 0; i < RAYS; i++) {
        const t = (i + 0.5) / RAYS
        rays.set(rayThrough(c, x0 + (x1 - x0) * t, y0 + (y1 - y0) * t, size.width, size.height), i * 6)
      }
      section.value = rays
    },
    { immediate: true },
  )

  /** Lays A–A about a spot on a part. */
  const layAt = (part: string, x: number, y: number) => {
    drawnLine.value = { part, line: across(x, y) }
  }
  return { line, lineDown, lineKey, layAt }
}
