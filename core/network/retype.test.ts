import { expect, it } from 'vitest'
import { mtlx } from '../testing/setup'
import { compileNetwork } from './compile'
import { childNamed, inputOf } from './document'
import { retype, typesOf } from './retype'

const document = mtlx(`<noise3d name="n" type="float"/>
  <mix name="m" type="float"><input name="fg" type="float" nodename="n"/><input name="bg" type="float" value="0.25"/>
  <input name="mix" type="float" value="0.5"/></mix>`)
const stated = (d: typeof document, node: string, input: string) =>
  inputOf(childNamed(d, node)!, input)?.attributes

it('values are fitted to the new type, what is the same stays, and wires stay', () => {
  const d = retype(document, 'm', 'color3')
  expect(childNamed(d, 'm')!.attributes.type).toBe('color3')
  expect(stated(d, 'm', 'bg')).toMatchObject({ type: 'color3', value: '0.25, 0.25, 0.25' })
  expect(stated(d, 'm', 'mix')).toMatchObject({ type: 'float', value: '0.5' })
  expect(stated(d, 'm', 'fg')).toMatchObject({ type: 'color3', nodename: 'n' })
  expect(stated(retype(d, 'm', 'vector2'), 'm', 'bg')).toMatchObject({ type: 'vector2', value: '0.25, 0.25' })
})

it('a node compiles in each of the types that it offers', () => {
  expect(typesOf('noise3d').slice(0, 3)).toEqual(['float', 'color3', 'vector3'])
  for (const type of typesOf('noise3d'))
    expect(compileNetwork(retype(document, 'n', type), 'n').faults, type).toEqual([])
})

it('a type that the category does not have is refused', () => {
  expect(() => retype(document, 'n', 'surfaceshader')).toThrow('noise3d does not come as surfaceshader')
  expect(() => retype(document, 'nothing', 'float')).toThrow('nothing')
})
