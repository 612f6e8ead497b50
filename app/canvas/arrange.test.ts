import { describe, expect, it } from 'vitest'
import { childNamed, nameOf } from '../../core/network/document'
import { groupNodes } from '../../core/network/groups'
import { readMtlx } from '../../core/formats/mtlx/mtlx'
import { arrange, routable, wiresOf } from './arrange'
import { cardOf } from './cards'
import { fingerprint } from '../pictures/fingerprint'
import { gridRays, histogram } from '../pictures/histogram'
import { routeWires } from './route'

const NODES = `<texcoord name="uv" type="vector2" xpos="0" ypos="0"/>
  <separate2 name="s" type="multioutput" xpos="1" ypos="0"><input name="in" type="vector2" nodename="uv"/></separate2>
  <multiply name="a" type="float" xpos="2" ypos="0">
  <input name="in1" type="float" nodename="s" output="outx"/></multiply>
  <add name="b" type="float" xpos="3" ypos="1"><input name="in1" type="float" nodename="a"/>
  <input name="in2" type="float" nodename="s" output="outy"/></add>
  <power name="end" type="float" xpos="4" ypos="0"><input name="in1" type="float" nodename="b"/></power>
  <sin name="below" type="float" xpos="2" ypos="2"/>`
const plain = readMtlx(`<?xml version="1.0"?><materialx version="1.39">${NODES}</materialx>`)
const grouped = groupNodes(plain, ['a', 'b']).document
const open = new Set(['group'])

describe('groups on the canvas', () => {
  it('closed are one card with the group’s own tabs', () => {
    expect(arrange(grouped, new Set()).map(p => [p.id, p.kind])).toEqual([
      ['uv', 'card'],
      ['s', 'card'],
      ['group', 'card'],
      ['end', 'card'],
      ['below', 'card'],
    ])
    expect(cardOf(grouped, childNamed(grouped, 'group')!, 'group', [], false)).toMatchObject({
      kind: 'group',
      group: true,
      inputs: [{ name: 'in1' }, { name: 'in2' }],
      outputs: [{ name: 'b_out', type: 'float' }],
    })
    expect(wiresOf(grouped).map(w => w.id)).toEqual([
      'uv>s.in',
      's:outx>group.in1',
      's:outy>group.in2',
      'group:b_out>end.in1',
    ])
  })
  it('open hold their cards, and push what stands right of them and below them', () => {
    const before = new Map(arrange(grouped, new Set()).map(p => [p.id, p]))
    const after = new Map(arrange(grouped, open).map(p => [p.id, p]))
    const frame = after.get('group')!
    expect(frame.kind).toBe('frame')
    for (const id of ['group/a', 'group/b']) {
      const c = after.get(id)!
      expect(c.parent).toBe('group')
      expect(c.x).toBeGreaterThan(0)
      expect(c.x + c.width).toBeLessThan(frame.width)
      expect(c.y + c.height).toBeLessThan(frame.height)
    }
    expect(after.get('end')!.x - before.get('end')!.x).toBe(frame.width - 148)
    expect(after.get('below')!.y).toBeGreaterThan(frame.y + frame.height)
    expect(after.get('s')).toEqual(before.get('s'))
  })
  it('open show the wires inside, from their inputs and to their outputs', () =>
    expect(
      wiresOf(grouped, open)
        .map(w => w.id)
        .filter(id => id.includes('group/') || id.includes('in:')),
    ).toEqual([
      'group:in:in1>group/a.in1',
      'group/a>group/b.in1',
      'group:in:in2>group/b.in2',
      'group/b>group.out:b_out',
    ]))
  it('let wires pass their frame only where they belong inside', () => {
    const placed = arrange(grouped, open)
    const { wires, boxes } = routable(placed, wiresOf(grouped, open), () => undefined)
    const paths = routeWires(wires, boxes)
    const cards = boxes.filter(b => b.id.includes('/'))
    for (const p of paths.values())
      for (let i = 1; i < p.length; i++)
        for (const b of cards) {
          const [ax, ay] = p[i - 1]!
          const [bx, by] = p[i]!
          expect(
            Math.max(ax, bx) > b.x + 1 &&
              Math.min(ax, bx) < b.x + b.width - 1 &&
              Math.max(ay, by) > b.y + 1 &&
              Math.min(ay, by) < b.y + b.height - 1,
          ).toBe(false)
        }
  })
  it('pictures depend on what a node is fed, also through a group’s edge, and on nothing else', () => {
    const changed = {
      ...grouped,
      children: grouped.children.map(c =>
        nameOf(c) === 's' ? { ...c, attributes: { ...c.attributes, wl_off: 'true' } } : c,
      ),
    }
    const moved = {
      ...grouped,
      children: grouped.children.map(c =>
        nameOf(c) === 's' ? { ...c, attributes: { ...c.attributes, xpos: '9' } } : c,
      ),
    }
    expect(fingerprint(changed, 'group/a')).not.toBe(fingerprint(grouped, 'group/a'))
    expect(fingerprint(changed, 'below')).toBe(fingerprint(grouped, 'below'))
    expect(fingerprint(moved, 'group/a')).toBe(fingerprint(grouped, 'group/a'))
  })
})

describe('histograms', () => {
  it('count values into bins, the fullest as 1, what lies beyond in the outermost', () =>
    expect(histogram([0.1, 0.2, 0.3, 0.9, 5, -1, NaN], 0, 1, 4)).toEqual([1, 1 / 3, 0, 2 / 3]))
  it('look through a grid that covers the picture evenly', () => {
    const rays = gridRays({ name: 'c', position: [0, 0, 2], target: [0, 0, 0], fov: 90 }, 2)
    // a field of view of 90° shows ±1 at a distance of 1: middles of the four cells at ±0.5
    expect(Array.from(rays.subarray(0, 6), x => +x.toFixed(6))).toEqual([0, 0, 2, -0.408248, 0.408248, -0.816497])
    expect(rays.length).toBe(24)
  })
})
