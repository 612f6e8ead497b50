import { describe, expect, it } from 'vitest'
import { cameraFrame } from '../scene/camera'
import { createGeometry } from '../scene/geometry'
import { triangleEdges } from './triangle-edges'

describe('edges of triangles', () => {
  const W = 64
  const H = 48
  const position = Float32Array.from([-1, -0.5, 0, 1, -0.5, 0, 1, 0.5, 0, -1, 0.5, 0])
  const part = {
    name: 'card',
    position,
    normal: Float32Array.from([0, 0, 1, 0, 0, 1, 0, 0, 1, 0, 0, 1]),
    uv: new Float32Array(0),
    index: Uint32Array.from([0, 1, 2, 0, 2, 3]),
  }
  const camera = cameraFrame({ name: 'front', position: [0, 0, 4], target: [0, 0, 0], fov: 30 }, W, H)
  const geometry = createGeometry({ parts: [part] })
  const lines = triangleEdges(geometry, camera, W, H, [0, H])
  /** Pixel of a place on z = 0, by the pinhole's own formula. */
  const pixel = (x: number, y: number): [number, number] => {
    const t = 4 * Math.tan(Math.PI / 12)
    return [(((x / t) * H) / W + 1) * 0.5 * W - 0.5, (1 - y / t) * 0.5 * H - 0.5]
  }

  it('run where the corners are projected to, a pixel wide, and nowhere else', () => {
    const [ax, ay] = pixel(-1, -0.5)
    const [bx, by] = pixel(1, 0.5)
    const along = Math.hypot(bx - ax, by - ay)
    for (let y = 0; y < H; y++)
      for (let x = 0; x < W; x++) {
        const inside = x > ax + 2 && x < bx - 2 && y < ay - 2 && y > by + 2
        if (!inside) continue
        const off = Math.abs((bx - ax) * (y - ay) - (by - ay) * (x - ax)) / along
        const line = lines[y * W + x]!
        if (off < 0.49) expect(line).toBe(255)
        else if (off > 1.21) expect(line).toBe(0)
      }
    expect(lines.filter(l => l === 255).length).toBeGreaterThan(40)
  })

  it('come by rows as they come whole', () => {
    const halves = [triangleEdges(geometry, camera, W, H, [0, 20]), triangleEdges(geometry, camera, W, H, [20, H])]
    expect([...halves[0]!, ...halves[1]!]).toEqual([...lines])
  })

  it('fade where triangles are hardly larger than pixels', () => {
    const fine = createGeometry({ parts: [fineCard()] })
    expect(Math.max(...triangleEdges(fine, camera, W, H, [0, H]))).toBe(0)
  })

  /** The card of triangles of a pixel and less. */
  function fineCard() {
    const n = 96
    const place: number[] = []
    const index: number[] = []
    for (let j = 0; j <= n; j++) for (let i = 0; i <= n; i++) place.push((2 * i) / n - 1, j / n - 0.5, 0)
    for (let j = 0; j < n; j++)
      for (let i = 0; i < n; i++) {
        const a = j * (n + 1) + i
        index.push(a, a + 1, a + n + 2, a, a + n + 2, a + n + 1)
      }
    return {
      ...part,
      position: Float32Array.from(place),
      normal: Float32Array.from(place, (_, k) => (k % 3 === 2 ? 1 : 0)),
      index: Uint32Array.from(index),
    }
  }
})
