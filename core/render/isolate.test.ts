import { expect, it } from 'vitest'
import { compileNetwork } from '../network/compile'
import { instantiate } from '../network/instantiate'
import { mtlx } from '../testing/setup'
import { isolateOnPlane } from './isolate'

const isolated = (body: string, node: string, width: number, height: number) => {
  const p = compileNetwork(mtlx(body), node)
  return isolateOnPlane(instantiate(p, []), Float64Array.from(p.constants), p.size, width, height)
}

it('gives every component of a value, each at its pixel’s centre, the top row first', () => {
  const values = isolated(
    `<texcoord name="uv" type="vector2"/>
     <separate2 name="s" type="multioutput"><input name="in" type="vector2" nodename="uv"/></separate2>
     <combine4 name="n" type="color4">
       <input name="in1" type="float" nodename="s" output="outx"/>
       <input name="in2" type="float" nodename="s" output="outy"/>
       <input name="in3" type="float" value="0.25"/>
       <input name="in4" type="float" nodename="s" output="outy"/>
     </combine4>`,
    'n',
    2,
    2,
  )
  const wanted = [0.25, 0.75, 0.25, 0.75, 0.75, 0.75, 0.25, 0.75, 0.25, 0.25, 0.25, 0.25, 0.75, 0.25, 0.25, 0.25]
  expect(Array.from(values)).toEqual(wanted)
})

it('shows a scalar as grey, and leaves what a pair does not have at 0', () => {
  expect(
    Array.from(
      isolated(
        '<constant name="n" type="float"><input name="value" type="float" value="0.5"/></constant>',
        'n',
        1,
        1,
      ),
    ),
  ).toEqual([0.5, 0.5, 0.5])
  expect(Array.from(isolated('<texcoord name="n" type="vector2"/>', 'n', 1, 1))).toEqual([0.5, 0.5, 0])
})
