/** Follows a pointer that went down until it is let go, wherever it moves. */
export function follow(
  e: PointerEvent,
  onMove: (m: PointerEvent) => void,
  onUp: () => void = () => undefined,
): void {
  const target = e.currentTarget as Element
  const moved = (m: Event) => onMove(m as PointerEvent)
  target.setPointerCapture(e.pointerId)
  target.addEventListener('pointermove', moved)
  target.addEventListener(
    'pointerup',
    () => {
      target.removeEventListener('pointermove', moved)
      onUp()
    },
    { once: true },
  )
}
