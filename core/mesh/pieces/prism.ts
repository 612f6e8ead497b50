import { joined } from '../build/lathe'
import type { Model, Part } from '../model'
import { quad } from '../quad'
import { ground } from './ground'

const SIDE = 0.05
const HALF = 0.045

/** A prism of three equal sides that stands on one of them, its edges sharp. */
function equilateral(name: string): Part {
  const top = (SIDE * Math.sqrt(3)) / 2
  const [a, b, c] = [
    [-SIDE / 2, 0],
    [SIDE / 2, 0],
    [0, top],
  ] as const
  const side = (p: readonly [number, number], q: readonly [number, number]) =>
    quad(
      '',
      [...p, -HALF, ...p, HALF, ...q, HALF, ...q, -HALF].map((x, i) => (i % 3 === 1 ? x + 0.002 : x)),
    )
  const cap = (z: number, turn: readonly (readonly [number, number])[]): Part => ({
    name: '',
    position: Float32Array.from(turn.flatMap(([x, y]) => [x, y + 0.002, z])),
    normal: Float32Array.from(turn.flatMap(() => [0, 0, Math.sign(z)])),
    uv: Float32Array.from(turn.flatMap(([x, y]) => [x / SIDE + 0.5, y / SIDE])),
    index: Uint32Array.from([0, 1, 2]),
  })
  return joined(name, [side(b, a), side(c, b), side(a, c), cap(HALF, [a, b, c]), cap(-HALF, [b, a, c])])
}

/** A prism of 60° and 9 cm, for glass, on a ground. */
export const prism = (): Model => ({
  parts: [equilateral('Prism'), ground()],
})
