import { describe, expect, it } from 'vitest'
import { distanceTo, pathText, routeWires, type Box, type Path, type Wire } from './route'

const card = (id: string, x: number, y: number): Box => ({ id, x, y, width: 148, height: 70 })
const wire = (id: string, x0: number, y0: number, x1: number, y1: number, source = id): Wire => ({
  id,
  source,
  x0,
  y0,
  x1,
  y1,
  within: [],
})
/** Whether any stretch of a path runs through a box. */
const crosses = (path: Path, b: Box) =>
  path.slice(1).some((p, i) => {
    const a = path[i]!
    return (
      Math.max(a[0], p[0]) > b.x &&
      Math.min(a[0], p[0]) < b.x + b.width &&
      Math.max(a[1], p[1]) > b.y &&
      Math.min(a[1], p[1]) < b.y + b.height
    )
  })
const square = (path: Path) => path.slice(1).every((p, i) => p[0] === path[i]![0] || p[1] === path[i]![1])

describe('routes of wires', () => {
  it('with nothing between take one vertical stretch', () => {
    const p = routeWires([wire('w', 166, 20, 400, 90)], [card('a', 0, 0), card('b', 418, 60)]).get('w')!
    expect(p).toEqual([
      [166, 20],
      [388, 20],
      [388, 90],
      [400, 90],
    ])
  })
  it('straight across are a single line', () =>
    expect(routeWires([wire('w', 166, 20, 400, 20)], []).get('w')).toEqual([
      [166, 20],
      [400, 20],
    ]))
  it('go around a card that stands between', () => {
    const between = card('c', 240, 0)
    const p = routeWires([wire('w', 166, 30, 480, 30)], [between]).get('w')!
    expect(crosses(p, between)).toBe(false)
    expect(square(p)).toBe(true)
    expect(p[0]).toEqual([166, 30])
    expect(p.at(-1)).toEqual([480, 30])
  })
  it('go back around to a target on the left', () => {
    const boxes = [card('a', 300, 0), card('b', 0, 0)]
    const p = routeWires([wire('w', 466, 20, -18, 40)], boxes).get('w')!
    expect(boxes.some(b => crosses(p, b))).toBe(false)
    expect(square(p)).toBe(true)
  })
  it('of different sources do not lie on each other; those of one source may', () => {
    const lane = (p: Path) => p[1]![0]
    const two = routeWires([wire('p', 0, 0, 200, 100), wire('q', 0, 50, 200, 120)], [])
    const one = routeWires([wire('p', 0, 0, 200, 100, 's'), wire('q', 0, 0, 200, 120, 's')], [])
    expect(Math.abs(lane(two.get('p')!) - lane(two.get('q')!))).toBeGreaterThanOrEqual(6)
    expect(lane(one.get('p')!)).toBe(lane(one.get('q')!))
  })
  it('keep clear of every card in a network of a hundred, within a few frames', () => {
    const boxes = Array.from({ length: 100 }, (_, i) => card(`n${i}`, (i % 12) * 216, Math.floor(i / 12) * 104))
    const ends = (i: number, k: number) =>
      wire(`${i}>${k}`, boxes[i]!.x + 166, boxes[i]!.y + 14, boxes[k]!.x - 18, boxes[k]!.y + 36)
    const wires = Array.from({ length: 120 }, (_, i) => ends((i * 37) % 100, (i * 53 + 11) % 100))
    const paths = routeWires(wires, boxes)
    for (const w of wires) {
      const p = paths.get(w.id)!
      expect(square(p)).toBe(true)
      expect(boxes.filter(b => crosses(p, b)).map(b => b.id)).toEqual([])
    }
  })
  it('inside an open group pass its frame, not its cards', () => {
    const frame: Box = { id: 'g', x: 0, y: 0, width: 600, height: 200 }
    const inner = card('g/n', 220, 40)
    const p = routeWires([{ ...wire('w', 0, 70, 560, 70), within: ['g'] }], [frame, inner]).get('w')!
    expect(crosses(p, inner)).toBe(false)
  })
  it('are drawn with softened corners, and know how far a point lies from them', () => {
    expect(
      pathText([
        [0, 0],
        [10, 0],
        [10, 20],
      ]),
    ).toBe('M 0 0 L 5 0 Q 10 0 10 5 L 10 20')
    expect(
      distanceTo(
        [
          [0, 0],
          [10, 0],
          [10, 20],
        ],
        14,
        10,
      ),
    ).toBe(4)
  })
})
