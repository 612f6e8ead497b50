/** A card and where it stands. */
interface Standing {
  id: string
  computedPosition: { x: number; y: number }
}

/** Least way in the direction of the arrow, pixels. */
const LEAST = 20

/** The card that an arrow key leads to: the nearest in its direction, sideways counting double. */
export function nearestCard<T extends Standing>(all: readonly T[], from: T, key: string): T | undefined {
  const horizontal = key === 'ArrowLeft' || key === 'ArrowRight'
  const sign = key === 'ArrowLeft' || key === 'ArrowUp' ? -1 : 1
  const away = (n: T) => ({
    x: n.computedPosition.x - from.computedPosition.x,
    y: n.computedPosition.y - from.computedPosition.y,
  })
  const score = (n: T): number => {
    const { x, y } = away(n)
    return horizontal ? Math.abs(x) + 2 * Math.abs(y) : Math.abs(y) + 2 * Math.abs(x)
  }
  return all
    .filter(n => n.id !== from.id && (horizontal ? away(n).x : away(n).y) * sign > LEAST)
    .sort((a, b) => score(a) - score(b))[0]
}
