import { expect, it } from 'vitest'
import { mtlx } from '../testing/setup'
import { findElement, inputOf } from './document'
import { definitionOf } from './edit'
import { unplug } from './unplug'

const NETWORK = mtlx(`<position name="p" type="vector3"/>
  <magnitude name="m" type="float"><input name="in" type="vector3" nodename="p"/></magnitude>
  <absval name="a" type="vector3"><input name="in" type="vector3" nodename="p"/></absval>`)
const stated = (d: typeof NETWORK, node: string) => inputOf(findElement(d, node)!, 'in')?.attributes

it('keeps the type of an input that takes several, and states nothing where there is one', () => {
  const d = unplug(NETWORK, 'm', 'in')
  expect(stated(d, 'm')).toEqual({ name: 'in', type: 'vector3', value: '0.0, 0.0, 0.0' })
  expect(definitionOf(findElement(d, 'm')!)?.inputs[0]?.type).toBe('vector3')
  expect(stated(unplug(NETWORK, 'a', 'in'), 'a')).toBeUndefined()
})
