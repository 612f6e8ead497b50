import { describe, expect, it } from 'vitest'
import type { Draft } from '../../shared/api'
import { foundDrafts } from './found-drafts'

const NOW = Date.parse('2026-12-01T10:00:00Z')
const draft = (tab: string, person: string, seconds: number): Draft => ({
  tab,
  person,
  base: 1,
  updated: new Date(NOW - seconds * 1000).toISOString(),
  state: {} as Draft['state'],
})
const found = (local: Draft[], server: Draft[], open: string[] = []) =>
  foundDrafts(local, server, { person: 'me', open: new Set(open), now: NOW }).map(
    d => `${d.tab}${d.local ? ' here' : ''}`,
  )

describe('drafts that are found', () => {
  it('are each once, the browser’s own copy before the server’s, the newest first', () => {
    expect(found([draft('a', 'me', 5)], [draft('a', 'me', 9), draft('b', 'me', 2)])).toEqual(['b', 'a here'])
    // what never reached the server is found too
    expect(found([draft('c', 'me', 1)], [])).toEqual(['c here'])
  })
  it('are not those of pages that are open', () => {
    expect(found([draft('a', 'me', 5)], [draft('b', 'me', 5)], ['a', 'b'])).toEqual([])
  })
  it('are those of others only once they have rested, and those of before tabs had names', () => {
    expect(found([], [draft('x', 'other', 500), draft('y', 'other', 700), draft('earlier', '', 3)])).toEqual([
      'earlier',
      'y',
    ])
  })
})
