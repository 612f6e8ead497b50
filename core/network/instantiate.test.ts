import { expect, it } from 'vitest'
import { memory } from '../nodes/memory'
import { POINT_STRIDE } from '../point/slots'
import { mtlx } from '../testing/setup'
import { compileNetwork } from './compile'
import { instantiate } from './instantiate'
import { createTexture } from '../maps/texture'

const S = new Float64Array(POINT_STRIDE)

it('materials of one source share one function, and keep their own numbers and pictures', () => {
  const made = [0, 1, 2].map(i => {
    const p = compileNetwork(
      mtlx(
        `<image name="i" type="float"><input name="file" type="filename" value="${'abc'[i]}.png"/></image>
         <add name="n" type="float"><input name="in1" type="float" nodename="i"/>
           <input name="in2" type="float" value="${i}"/></add>`,
      ),
      'n',
    )
    const picture = createTexture(1, 1, Float32Array.of(0.1 * i, 0, 0, 1), 'raw')
    return { shader: instantiate(p, [picture]), C: Float64Array.from(p.constants) }
  })
  expect(new Set(made.map(m => m.shader.value)).size).toBe(1)
  expect(new Set(made.map(m => m.shader.shade)).size).toBe(1)
  made.forEach(({ shader, C }, i) => {
    shader.value(S, C, shader.images)
    expect(memory.result[0]).toBeCloseTo(1.1 * i, 6)
  })
  const other = compileNetwork(mtlx('<constant name="n" type="float"/>'), 'n')
  expect(instantiate(other, []).value).not.toBe(made[0]!.shader.value)
})
