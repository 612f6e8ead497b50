import { describe, expect, it } from 'vitest'
import { mtlx } from '../testing/setup'
import { findElement, inputOf } from './document'
import { definitionOf } from './edit'
import { lostBy, wire } from './wire'

const NETWORK = mtlx(`<position name="p" type="vector3"/><normal name="n" type="vector3"/>
  <constant name="f" type="float"/>
  <dotproduct name="d" type="float"/><magnitude name="m" type="float"/><distance name="far" type="float"/>
  <add name="free" type="float"><input name="in2" type="float" value="2"/></add>
  <add name="read" type="float"/><absval name="reads" type="float">
  <input name="in" type="float" nodename="read"/></absval>`)
type Document = typeof NETWORK
const input = (d: Document, node: string, name: string) => inputOf(findElement(d, node)!, name)?.attributes

describe('wires choose the signature that loses nothing', () => {
  it.each([
    ['d', 'in1'],
    ['m', 'in'],
    ['far', 'in1'],
  ])('three numbers stay three in %s', (node, name) => {
    const d = wire(NETWORK, 'p', node, name)
    expect(input(d, node, name)).toEqual({ name, type: 'vector3', nodename: 'p' })
    expect(definitionOf(findElement(d, node)!)?.inputs.find(i => i.name === name)?.type).toBe('vector3')
    expect(d.children).toHaveLength(NETWORK.children.length)
    expect(lostBy(NETWORK, 'p', node, name)).toBeUndefined()
  })
  it('a second wire of the same type goes beside the first', () => {
    const d = wire(wire(NETWORK, 'p', 'd', 'in1'), 'n', 'd', 'in2')
    expect([input(d, 'd', 'in1')?.nodename, input(d, 'd', 'in2')?.nodename]).toEqual(['p', 'n'])
  })
  it('a node that nothing reads takes the type, its values fitted; one that is read keeps it, and that is said', () => {
    const d = wire(NETWORK, 'p', 'free', 'in1')
    expect(findElement(d, 'free')?.attributes.type).toBe('vector3')
    expect(input(d, 'free', 'in2')).toMatchObject({ type: 'vector3', value: '2, 2, 2' })
    const read = wire(NETWORK, 'p', 'read', 'in1')
    expect(findElement(read, 'read')?.attributes.type).toBe('float')
    expect(findElement(read, input(read, 'read', 'in1')!.nodename!)?.tag).toBe('extract')
    expect(lostBy(NETWORK, 'p', 'read', 'in1')).toBe('p gives 3 numbers, in1 takes one: the first')
  })
  it('one number into more is none lost', () => {
    expect(lostBy(NETWORK, 'f', 'd', 'in1')).toBeUndefined()
  })
})
