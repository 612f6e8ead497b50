import { expect, test } from 'vitest'
import { element } from '../../core/network/document'
import { hitsFor } from './hits'

const searched = {
  document: element('materialx', {}, [element('noise3d', { name: 'grain', type: 'float' })]),
  part: 'Lid',
  scene: { parts: [{ name: 'Lid' }, { name: 'Ring' }] },
  state: { materials: { Brass: {}, Grainy: {} } },
}
const ACTIONS = [{ name: 'keep', title: 'Keep a proof', key: 'K' }]
const shown = (text: string) =>
  Object.fromEntries(hitsFor(text, searched, ACTIONS).map(g => [g.title, g.hits.map(h => h.title)]))

test('without a text: parts, materials and actions, and nothing to add', () => {
  expect(shown('')).toEqual({
    Parts: ['Lid', 'Ring'],
    Materials: ['Brass', 'Grainy'],
    Actions: ['Keep a proof'],
  })
})

test('one row a node, ranked: the name itself, its beginning, beginnings of words, synonyms, then the rest', () => {
  const added = (text: string) => shown(text)['Add to the network'] ?? []
  expect(added('add').at(0)).toBe('add')
  expect(added('noise').slice(0, 2)).toEqual(['noise2d', 'noise3d'])
  expect(added('noise').filter(x => x === 'noise3d')).toHaveLength(1)
  expect(added('schlick').at(0)).toBe('generalized_schlick_bsdf')
  expect(added('mix').at(0)).toBe('mix')
  expect(shown('noise').Nodes).toEqual(['grain'])
  for (const surface of ['open_pbr_surface', 'layer', 'dielectric_bsdf', 'metal'])
    expect(added(surface), surface).toContain(surface)
})

test.each([
  ['dirt', 'occlusion'],
  ['tiling', 'place2d'],
  ['slope', 'normal'],
  ['fresnel', 'facingratio'],
  ['radial', 'circle'],
  ['voronoi', 'worleynoise2d'],
  ['hue', 'hsvadjust'],
  ['blend', 'mix'],
  ['gloss', 'invert'],
  ['texture', 'image'],
  ['levels', 'range'],
])('%s finds %s', (word, title) => {
  expect(shown(word)['Add to the network']!.slice(0, 4)).toContain(title)
})

test('what is not there yet is said beside the nearest', () => {
  const first = hitsFor('radial', searched, ACTIONS).at(0)!.hits.at(0)!
  expect(first.title).toBe('circle')
  expect(first.detail).toContain('not there yet')
})

test('every word must be found', () => {
  expect(shown('noise zzz')).toEqual({})
})

test('each hit has an id of its own', () => {
  for (const text of ['', 'a', 'noise']) {
    const ids = hitsFor(text, searched, ACTIONS).flatMap(g => g.hits.map(h => h.id))
    expect(new Set(ids).size).toBe(ids.length)
  }
})
