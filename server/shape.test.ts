import { describe, expect, it } from 'vitest'
import { stateSchema } from '../shared/api'
import { answerTo } from './database/faults'
import { kept, shapeFault } from './shape'

const nested = (depth: number): unknown => JSON.parse('['.repeat(depth) + ']'.repeat(depth))

describe('the shape of a body', () => {
  it('says where a text cannot be kept, and leaves all others be', () => {
    expect(shapeFault({ a: ['x', 'y\0z'] })).toBe('a.1: holds a character that cannot be kept')
    expect(shapeFault({ a: '\ud800' })).toMatch(/^a: /)
    expect(shapeFault({ a: 'x\udc00' })).toMatch(/^a: /)
    expect(shapeFault({ 'k\0': 1 })).toMatch(/a name holds/)
    expect(shapeFault({ a: '😀 – ü\n\t' })).toBeUndefined()
    expect(kept('a\0b\ud800c😀')).toBe('abc😀')
  })
  it('is bounded in depth, in number and in numbers', () => {
    expect(shapeFault(nested(99))).toBeUndefined()
    expect(shapeFault(nested(101))).toMatch(/nested more than 100 deep/)
    expect(shapeFault(nested(5000))).toMatch(/nested more than 100 deep/)
    expect(shapeFault(JSON.parse('{"x":1e999}'))).toBe('x: is beyond all numbers')
    expect(shapeFault(Array.from({ length: 1_000_001 }, () => []))).toMatch(/more than 1000000/)
  })
  it('bounds the elements of a whole document, not of each list', () => {
    const leaf = { tag: 'input', attributes: {}, children: [] }
    const document = (groups: number, each: number) => ({
      scene: {},
      materials: {
        m: {
          tag: 'materialx',
          attributes: {},
          children: Array.from({ length: groups }, () => ({
            tag: 'nodegraph',
            attributes: {},
            children: Array.from({ length: each }, () => leaf),
          })),
        },
      },
    })
    const faults = (of: unknown) =>
      stateSchema
        .safeParse(of)
        .error!.issues.filter(i => i.path[0] === 'materials')
        .map(i => i.message)
    expect(faults(document(6, 1000))).toEqual([])
    expect(faults(document(6, 100_000))).toEqual(['more than 100000 elements'])
  })
})

describe('errors of the database', () => {
  const coded = (code: string) => Object.assign(new Error('insert into secrets …'), { code })
  it.each([
    ['23503', 400],
    ['22003', 400],
    ['53100', 507],
    ['57P01', 503],
    ['ECONNREFUSED', 503],
  ])('%s is answered by %i, in words that tell nothing of the query', (code, status) => {
    const answer = answerTo(new Error('wrapped', { cause: coded(code) }))!
    expect(answer.status).toBe(status)
    expect(answer.message).not.toMatch(/insert/)
  })
  it('leaves what is no error of the database alone', () => {
    for (const e of [new Error('x'), coded('constructor'), coded('42601'), null, 'x'])
      expect(answerTo(e)).toBeUndefined()
  })
})
