import { describe, expect, it } from 'vitest'
import { rigSchema } from '../../core/scene/rig'
import { brightest, changePanels, dimmed, entriesOf, grouped, repeated } from './panel-groups'

const panel = (name: string, group?: string, level = 1) => ({
  name,
  ...(group ? { group } : {}),
  centre: [0, 1, 0],
  u: [0.2, 0, 0],
  v: [0, 0, -0.1],
  radiance: [level, level / 2, 0],
})
const rig = (panels: object[]) =>
  rigSchema.parse({ name: 'r', environment: { kind: 'uniform', radiance: [0, 0, 0] }, panels })

describe('groups of panels', () => {
  const r = rig([panel('key'), panel('a', 'row', 2), panel('rim'), panel('b', 'row', 8)])
  it('stand where their first panel does', () =>
    expect(entriesOf(r.panels)).toEqual([
      { kind: 'panel', at: 0 },
      { kind: 'group', name: 'row', at: [1, 3] },
      { kind: 'panel', at: 2 },
    ]))
  it('are dimmed together by the brightest, colours kept', () => {
    expect(brightest([r.panels[1]!, r.panels[3]!])).toBe(8)
    const half = changePanels(r, [1, 3], p => dimmed(p, 0.5))
    expect(half.panels.map(p => p.radiance[0])).toEqual([1, 1, 1, 4])
    expect(half.panels[3]!.radiance).toEqual([4, 2, 0])
  })
  it('are joined and left by name', () => {
    expect(grouped(r.panels[0]!, ' row ').group).toBe('row')
    expect(grouped(r.panels[1]!, ' ')).not.toHaveProperty('group')
  })
})

describe('a panel that is repeated', () => {
  it('stands in rows along its own edges, the first where it was, with names and a group of their own', () => {
    const r = repeated(rig([panel('Lamp'), panel('Lamp 2')]), 0, 3, 2, 0.5)
    expect(r.panels.map(p => p.name)).toEqual(['Lamp', 'Lamp 2', 'Lamp 3', 'Lamp 4', 'Lamp 5', 'Lamp 6', 'Lamp 7'])
    expect(r.panels.filter(p => p.group === 'Lamp').map(p => p.centre)).toEqual([
      [0, 1, 0],
      [0.5, 1, 0],
      [1, 1, 0],
      [0, 1, -0.5],
      [0.5, 1, -0.5],
      [1, 1, -0.5],
    ])
    expect(r.panels[1]).not.toHaveProperty('group')
  })
})
