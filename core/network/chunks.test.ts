import { expect, it } from 'vitest'
import { memory } from '../nodes/memory'
import { POINT_STRIDE } from '../point/slots'
import { mtlx, valueAt } from '../testing/setup'
import { compileNetwork } from './compile'
import { instantiate } from './instantiate'

const wire = (name: string, from: string) => `<input name="${name}" type="float" nodename="${from}"/>`
const value = (name: string, x: number) => `<input name="${name}" type="float" value="${x}"/>`
/** n0 = u, n1 = v, then sums and products of the one before, of one 150 before, and of the coordinates. */
const long = (count: number) =>
  `<texcoord name="uv" type="vector2"/>
   <separate2 name="s" type="multioutput"><input name="in" type="vector2" nodename="uv"/></separate2>
   <add name="n0" type="float"><input name="in1" type="float" nodename="s" output="outx"/>${value('in2', 0)}</add>
   <add name="n1" type="float"><input name="in1" type="float" nodename="s" output="outy"/>${value('in2', 0)}</add>` +
  Array.from({ length: count }, (_, i) => {
    const k = i + 2
    const far = `n${Math.max(0, k - 150)}`
    return k % 3
      ? `<mix name="n${k}" type="float">${wire('fg', `n${k - 1}`)}${wire('bg', far)}${value('mix', 0.9)}</mix>`
      : `<multiply name="n${k}" type="float">${wire('in1', `n${k - 1}`)}${value('in2', 1.001)}</multiply>`
  }).join('')
function wanted(count: number, u: number, v: number): number {
  const n = [u, v]
  for (let k = 2; k < count + 2; k++) {
    const far = n[Math.max(0, k - 150)]!
    n.push(k % 3 ? far + (n[k - 1]! - far) * 0.9 : n[k - 1]! * 1.001)
  }
  return n.at(-1)!
}

it('networks of a thousand nodes are several functions, and give what one would', () => {
  const p = compileNetwork(mtlx(long(1000)), 'n1001')
  expect(p.faults).toEqual([])
  expect(p.source.match(/^function k/gm)!.length).toBeGreaterThan(8)
  const shader = instantiate(p, [])
  for (const [u, v] of [
    [0.2, 0.7],
    [0.9, 0.1],
  ] as const)
    expect(valueAt(shader, Float64Array.from(p.constants), memory.result, u, v)[0]).toBeCloseTo(
      wanted(1000, u, v),
      9,
    )
})

it('so do long heights of a relief, which are asked at three points', () => {
  const height = (count: number) =>
    compileNetwork(
      mtlx(
        `${long(count)}<heighttonormal name="h" type="vector3">${wire('in', `n${count + 1}`)}</heighttonormal>`,
      ),
      'h',
    )
  const p = height(600)
  expect(p.source.match(/^function k/gm)!.length).toBeGreaterThan(2)
  const S = new Float64Array(POINT_STRIDE)
  S.set([
    0.3, 0.4, 0, 0, 0, 1, 0, 0, 1, 1, 0, 0, 0, 1, 0, 0, 0, -1, 0.3, 0.4, 1e-4, 0, 1, 1, 1, 1, 1, 0, 0, 0, 1, 0,
  ])
  const shader = instantiate(p, [])
  shader.value(S, Float64Array.from(p.constants), shader.images)
  const d = 1e-5
  const slope = [0, 1].map(
    k => (wanted(600, 0.3 + (k ? 0 : d), 0.4 + (k ? d : 0)) - wanted(600, 0.3, 0.4)) / d / 16,
  )
  const l = Math.hypot(slope[0]!, slope[1]!, 1)
  expect(memory.result[0]).toBeCloseTo((-slope[0]! / l) * 0.5 + 0.5, 5)
  expect(memory.result[1]).toBeCloseTo((-slope[1]! / l) * 0.5 + 0.5, 5)
})
