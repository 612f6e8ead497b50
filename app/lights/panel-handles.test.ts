import { describe, expect, it } from 'vitest'
import { panelSchema, type Panel } from '../../core/scene/rig'
import type { Camera } from '../../core/scene/camera'
import { dotOf, handled, mirroredAt, moved, putAt } from './panel-handles'

const panel: Panel = panelSchema.parse({
  name: 'p',
  centre: [3, 2, 1],
  u: [-0.5, 0, 0],
  v: [0, 0.3, 0],
  radiance: [1, 1, 1],
})
const camera: Camera = { name: 'c', position: [2, 1, 5], target: [0.2, 0.3, 0.1], fov: 30 }
const middle = [0.2, 0.3, 0.1]
/** Where a rig's turn brings a point (the rig's own formula). */
const turned = ([x, y, z]: readonly number[], degrees: number) => {
  const c = Math.cos((degrees * Math.PI) / 180)
  const s = Math.sin((degrees * Math.PI) / 180)
  return [c * x! + s * z!, y!, -s * x! + c * z!]
}

describe('handles of panels', () => {
  it.each([0, 75, 210])('a panel put at a dot is shown at that dot, as far away, in a rig turned by %d°', turn => {
    for (const d of [
      { x: 0.3, y: -0.5, near: true },
      { x: -0.7, y: 0.2, near: false },
    ]) {
      const p = putAt(panel, d, turn, middle, camera)
      const back = dotOf(p, turn, middle, camera)
      const away = turned(p.centre, turn).map((x, k) => x - middle[k]!)
      expect(back.x).toBeCloseTo(d.x, 3)
      expect(back.y).toBeCloseTo(d.y, 3)
      expect(back.near).toBe(d.near)
      const before = turned(panel.centre, turn).map((x, k) => x - middle[k]!)
      expect(Math.hypot(...away)).toBeCloseTo(Math.hypot(...before), 6)
    }
  })
  it('lie on the side of the camera where the panel does: before a camera on +z a panel on +z is near', () => {
    const front: Camera = { name: 'f', position: [0, 0, 9], target: [0, 0, 0], fov: 30 }
    expect(dotOf({ ...panel, centre: [2, 0, 2] }, 0, [0, 0, 0], front)).toMatchObject({ near: true })
    const d = dotOf({ ...panel, centre: [2, 0, -2] }, 0, [0, 0, 0], front)
    expect(d.near).toBe(false)
    expect(d.x).toBeCloseTo(Math.SQRT1_2, 6)
  })
  it('go round the rim to the far side and come back', () => {
    const over = moved({ x: 0.9, y: 0, near: true }, 0.3, 0)
    expect(over.near).toBe(false)
    expect(over.x).toBeCloseTo(0.8, 9)
    expect(moved(over, 0.1, 0)).toEqual({ x: 0.9, y: 0, near: false })
    expect(moved({ x: -0.4, y: 0.1, near: true }, 0.1, 0.1).near).toBe(true)
  })
  it.each([0, 40])(
    'a panel is mirrored where it was asked for: half way between eye and panel stands the normal (law of ' +
      'reflection), rig turned by %d°',
    turn => {
      const point = [0.4, 0.5, 0.3]
      const n = [0.2, 0.6, 0.9].map(x => x / Math.hypot(0.2, 0.6, 0.9))
      const from = camera.position.map((x, k) => point[k]! - x)
      const l = Math.hypot(...from)
      const p = mirroredAt(
        panel,
        point,
        n,
        from.map(x => x / l),
        turn,
        middle,
      )
      const to = turned(p.centre, turn).map((x, k) => x - point[k]!)
      const m = Math.hypot(...to)
      const half = to.map((x, k) => x / m - from[k]! / l)
      const h = Math.hypot(...half)
      half.forEach((x, k) => expect(x / h).toBeCloseTo(n[k]!, 3))
    },
  )
})

describe('panels that have handles', () => {
  const of = (n: number, group?: string) =>
    Array.from({ length: n }, () => ({ ...panel, ...(group ? { group } : {}) }))
  it('are those without a group while they are few, and the one in hand', () => {
    expect(handled([...of(2), ...of(40, 'row')], null)).toEqual([0, 1])
    expect(handled([...of(2), ...of(40, 'row')], 7)).toEqual([0, 1, 7])
    expect(handled(of(25), null)).toEqual([])
    expect(handled(of(25), 3)).toEqual([3])
  })
})
