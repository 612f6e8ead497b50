import { expect, it } from 'vitest'
import { divide } from '../expression/arithmetic'
import { compileNetwork } from '../network/compile'
import { instantiate } from '../network/instantiate'
import { registerNode } from '../nodes'
import { memory } from '../nodes/memory'
import { registerModelFormat, readModelFiles } from '../formats/models'
import { registerPictureFormat, readPicture } from '../formats/pictures'
import { setValue } from '../network/edit'
import { POINT_STRIDE } from '../point/slots'
import { mtlx } from '../testing/setup'
import { checkDocument, mend, registerRule } from '../checks'

it('a node that is added from outside compiles and computes', () => {
  registerNode(
    [
      {
        name: 'ND_test_halved_float',
        node: 'test_halved',
        nodegroup: 'math',
        inputs: [{ name: 'in', type: 'float', default: '1' }],
        outputs: [{ name: 'out', type: 'float' }],
      },
    ],
    { about: 'Half of it.', emit: c => c.arg('in').map(x => divide(x, 2)) },
  )
  const program = compileNetwork(
    mtlx('<test_halved name="n" type="float"><input name="in" type="float" value="5"/></test_halved>'),
    'n',
  )
  expect(program.faults).toEqual([])
  instantiate(program, []).value(new Float64Array(POINT_STRIDE), Float64Array.from(program.constants), [])
  expect(memory.result[0]).toBe(2.5)
})

it('a check that is added from outside finds and mends', () => {
  registerRule({
    name: 'no seven',
    run: ({ nodes }) =>
      nodes.flatMap(({ path, node }) =>
        node.children.some(c => c.attributes.value === '7')
          ? [
              {
                rule: 'no seven',
                severity: 'error' as const,
                where: path,
                message: 'It is seven.',
                fix: 'Make it six',
              },
            ]
          : [],
      ),
    mend: (document, finding) => setValue(document, finding.where, 'value', 'float', '6'),
  })
  const seven = mtlx('<constant name="k" type="float"><input name="value" type="float" value="7"/></constant>')
  const found = checkDocument(seven).filter(f => f.rule === 'no seven')
  expect(found.map(f => f.where)).toEqual(['k'])
  expect(checkDocument(mend(seven, found[0]!)).filter(f => f.rule === 'no seven')).toEqual([])
})

it('formats that are added from outside are read', async () => {
  registerPictureFormat({
    name: 'Grey',
    endings: ['grey'],
    type: 'image/x-grey',
    magic: [0x47, 0x52, 0x45, 0x59],
    read: bytes => ({ width: 1, height: 1, data: Uint8Array.from([bytes[4]!, bytes[4]!, bytes[4]!, 255]) }),
  })
  expect(readPicture(Uint8Array.from([0x47, 0x52, 0x45, 0x59, 77])).data[0]).toBe(77)
  registerModelFormat({
    ending: 'dot',
    read: bytes => ({
      model: {
        parts: [
          {
            name: 'Dot',
            position: new Float32Array(9).fill(bytes[0]!),
            index: Uint32Array.from([0, 1, 2]),
            normal: new Float32Array(9),
            uv: new Float32Array(0),
          },
        ],
      },
      materialOf: [-1],
      materials: [],
      unitKnown: true,
      missing: [],
      lights: [],
    }),
  })
  const read = await readModelFiles([{ name: 'a.dot', bytes: Uint8Array.from([3]) }])
  expect(read.model.parts[0]!.position[0]).toBe(3)
})
