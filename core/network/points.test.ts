import { describe, expect, it } from 'vitest'
import { mtlx } from '../testing/setup'
import { findElement, inputOf } from './document'
import { EditError } from './edit'
import { insertPoint, movePoint, pointsOf, removePoint } from './points'

const RAMP =
  mtlx(`<constant name="c" type="color3"/><wl_ramp name="r" type="color3"><input name="count" type="integer" value="3"/>
  <input name="position1" type="float" value="0"/><input name="color1" type="color3" value="1, 0, 0"/>
  <input name="position2" type="float" value="0.5"/><input name="color2" type="color3" nodename="c"/>
  <input name="position3" type="float" value="1"/><input name="color3" type="color3" value="0, 0, 1"/>
  </wl_ramp><wl_curve name="k" type="float"/>`)
const at = (d: typeof RAMP, name = 'r') => pointsOf(findElement(d, name)!)

describe('points of ramps and curves', () => {
  it('a node as it comes has two, 0 and 1', () =>
    expect(at(RAMP, 'k').map(p => [p.position, ...p.value])).toEqual([
      [0, 0],
      [1, 1],
    ]))
  it('one put in takes the value of the line there, and wires move with their points', () => {
    const { document, at: k } = insertPoint(RAMP, 'k', 0.25)
    expect(k).toBe(1)
    expect(at(document, 'k').map(p => [p.position, ...p.value])).toEqual([
      [0, 0],
      [0.25, 0.25],
      [1, 1],
    ])
    const more = insertPoint(RAMP, 'r', 0.2).document
    expect(at(more).map(p => p.wired)).toEqual([false, false, true, false])
    expect(inputOf(findElement(more, 'r')!, 'color3')?.attributes).toEqual({
      name: 'color3',
      type: 'color3',
      nodename: 'c',
    })
    expect(at(removePoint(more, 'r', 0)).map(p => [p.position, p.wired])).toEqual([
      [0.2, false],
      [0.5, true],
      [1, false],
    ])
  })
  it('a moved point stays between its neighbours; a wired value stays wired', () => {
    expect(at(movePoint(RAMP, 'r', 1, 7)).map(p => p.position)).toEqual([0, 1, 1])
    expect(at(movePoint(RAMP, 'r', 1, 0.4, [9, 9, 9]))[1]).toMatchObject({ position: 0.4, wired: true })
    expect(at(movePoint(RAMP, 'r', 0, -1, [0, 1, 0]))[0]).toEqual({ position: -1, value: [0, 1, 0], wired: false })
  })
  it('a ninth point and the removal of the last are refused in words', () => {
    let d = RAMP
    for (let i = 0; i < 5; i++) d = insertPoint(d, 'r', 0.1 * i).document
    expect(() => insertPoint(d, 'r', 0.9)).toThrow('a ramp has at most 8 points')
    for (let i = 0; i < 7; i++) d = removePoint(d, 'r', 0)
    expect(() => removePoint(d, 'r', 0)).toThrow(EditError)
    expect(() => insertPoint(RAMP, 'gone', 0.5)).toThrow('nothing called gone')
  })
})
