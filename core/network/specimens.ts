/** Specimens: measured matter, each as a document that can be worn as it is, with where its numbers come from. */
import { CONDUCTOR_NAMES, CONDUCTOR_SOURCES } from '../optics/conductors'
import { GLASS_NAMES, GLASS_SOURCES } from '../optics/glasses'
import { element, type Element } from './document'
import { documentOf } from './starters'

export interface Specimen {
  key: string
  title: string
  class: 'Metals' | 'Glasses, polymers, liquids' | 'Films'
  source: string
  make(): Element
}

const input = (name: string, type: string, value: string) => element('input', { name, type, value })
const named = (name: string) => name.charAt(0).toUpperCase() + name.slice(1)
const identifier = (name: string) => name.replace(/[^A-Za-z0-9]+/g, '_')

function metal(name: string, title: string, more: Element[] = [], roughness = '0.12'): Element {
  return documentOf(
    identifier(title),
    element(
      'wl_metal',
      { name: 'stock', type: 'surfaceshader', wl_title: `${title}, raw stock`, xpos: '2', ypos: '0' },
      [input('metal', 'string', name), input('roughness', 'float', roughness), ...more],
    ),
  )
}
function glass(name: string, title: string, more: Element[] = []): Element {
  return documentOf(
    identifier(title),
    element(
      'wl_glass',
      { name: 'stock', type: 'surfaceshader', wl_title: `${title}, raw stock`, xpos: '2', ypos: '0' },
      [input('glass', 'string', name), input('roughness', 'float', '0'), ...more],
    ),
  )
}
const film = (nanometres: string, index: string) => [
  input('film_thickness', 'float', nanometres),
  input('film_ior', 'float', index),
]

/** Oxides and coatings on what they grow or lie on: thickness in nm, and the mean index over the visible. */
const FILMS: readonly Specimen[] = (
  [
    ['Titanium, straw', 'titanium', '28', '2.4'],
    ['Titanium, purple', 'titanium', '38', '2.4'],
    ['Titanium, blue', 'titanium', '48', '2.4'],
    ['Titanium, gold', 'titanium', '92', '2.4'],
    ['Titanium, magenta', 'titanium', '115', '2.4'],
    ['Steel, tempered straw', 'iron', '30', '2.3'],
    ['Steel, tempered blue', 'iron', '55', '2.3'],
    ['Gold under a clear film', 'gold', '300', '1.5'],
  ] as const
).map(([title, on, d, n]): Specimen => ({
  key: `film:${title}`,
  title,
  class: 'Films',
  source:
    `${named(on)} as measured, under ${d} nm of index ${n}; thicknesses and indices of oxides are ` +
    `common practice`,
  make: () => metal(on, title, film(d, n)),
}))

/** All specimens, by class. */
export const specimens: readonly Specimen[] = [
  ...CONDUCTOR_NAMES.map((name, i): Specimen => ({
    key: `metal:${name}`,
    title: named(name),
    class: 'Metals',
    source: CONDUCTOR_SOURCES[i]!,
    make: () => metal(name, named(name)),
  })),
  ...GLASS_NAMES.map((name, i): Specimen => ({
    key: `glass:${name}`,
    title: named(name),
    class: 'Glasses, polymers, liquids',
    source: GLASS_SOURCES[i]!,
    make: () => glass(name, named(name)),
  })),
  ...FILMS,
  {
    key: 'film:coated',
    title: 'Crown glass, one quarter wave',
    class: 'Films',
    source: '100 nm of index 1.38 (a quarter of 550 nm) on crown 517/642; Born & Wolf §1.6.4',
    make: () => glass('borosilicate crown 517/642', 'Crown glass, one quarter wave', film('99.6', '1.38')),
  },
]
