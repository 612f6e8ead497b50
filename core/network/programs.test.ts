import { describe, expect, it } from 'vitest'
import { POINT, POINT_STRIDE } from '../point/slots'
import { clearValue } from '../surface/accumulate'
import { beginSurfaceAt } from '../surface/begin'
import { lobeOfKind } from '../surface/lobes/dispatch'
import { memory, now } from '../surface/memory'
import { LOBE } from '../surface/slots'
import { input, node } from '../testing/elements'
import { mtlx, pbr } from '../testing/setup'
import { compileNetwork, type Program } from './compile'
import { instantiate } from './instantiate'
import { starters } from './starters'
import { nameOf } from './document'

const { basis, emission, lobes, value } = memory

const noise = node('noise3d', 'k', 'float', input('pivot', 'float', '0.4'))
const glow = node('uniform_edf', 'glow', 'EDF', input('color', 'color3', '3, 2, 1'))

const MATERIALS: [string, string][] = [
  [
    'an open surface that shines under a coat and fuzz',
    noise +
      pbr({
        emission_luminance: 4,
        emission_color: '1, 0.5, 0.2',
        coat_weight: 0.7,
        coat_color: '0.9, 0.5, 0.3',
        fuzz_weight: 0.4,
        geometry_opacity: 0.6,
      }),
  ],
  [
    'an open surface of glass',
    pbr({
      transmission_weight: 0.8,
      transmission_color: '0.5, 0.8, 0.9',
      coat_weight: 0.5,
      geometry_opacity: 0.9,
    }),
  ],
  ['an open surface that does neither', pbr({ base_color: '0.2, 0.3, 0.4' })],
  [
    'a cone of light and glass',
    node('conical_edf', 'e', 'EDF', input('color', 'color3', '1, 2, 3'), input('inner_angle', 'float', '20')) +
      node('dielectric_bsdf', 'b', 'BSDF', input('tint', 'color3', '0.3, 0.9, 0.5')) +
      node(
        'surface',
        's',
        'surfaceshader',
        input('bsdf', 'BSDF', 'b'),
        input('edf', 'EDF', 'e'),
        input('opacity', 'float', '0.7'),
      ),
  ],
  [
    'a coat over a mix of light and of a thin wall',
    noise +
      glow +
      pbr({ transmission_weight: 1, geometry_thin_walled: 'true' }, 'wall') +
      node('surface', 'lamp', 'surfaceshader', input('edf', 'EDF', 'glow')) +
      node(
        'mix',
        'both',
        'surfaceshader',
        input('fg', 'surfaceshader', 'lamp'),
        input('bg', 'surfaceshader', 'wall'),
        input('mix', 'float', 'k'),
      ) +
      node(
        'wl_coat_over',
        's',
        'surfaceshader',
        input('base', 'surfaceshader', 'both'),
        input('coat_weight', 'float', '0.8'),
      ),
  ],
  [
    'a surface without light and shade',
    node(
      'surface_unlit',
      's',
      'surfaceshader',
      input('emission', 'float', '2'),
      input('transmission', 'float', '0.3'),
      input('opacity', 'float', '0.8'),
    ),
  ],
  [
    'fuzz over diffuse, let through by a half',
    node('sheen_bsdf', 'top', 'BSDF', input('roughness', 'float', '0.4')) +
      node('oren_nayar_diffuse_bsdf', 'low', 'BSDF') +
      node('layer', 'b', 'BSDF', input('top', 'BSDF', 'top'), input('base', 'BSDF', 'low')) +
      node('surface', 's', 'surfaceshader', input('bsdf', 'BSDF', 'b'), input('opacity', 'float', '0.5')),
  ],
]

const S = new Float64Array(POINT_STRIDE)
S.set([0.3, 0.4, 0.1], POINT.position)
S.set([0, 0, 1], POINT.normal)
S.set([0, 0, 1], POINT.geometric)
S.set([1, 0, 0], POINT.tangent)
S.set([0, 1, 0], POINT.bitangent)

/** Light that is sent out, and what passes straight, as a function of the program leaves them. */
function asked(p: Program, name: 'shade' | 'light' | 'passage', tilt: number) {
  const shader = instantiate(
    p,
    p.images.map(() => null),
  )
  S.set([Math.sin(tilt), 0, -Math.cos(tilt)], POINT.view)
  basis.fill(1 / 3)
  beginSurfaceAt(S)
  shader[name](S, Float64Array.from(p.constants), shader.images)
  const light = [...emission]
  clearValue()
  for (let l = 0; l < now.lobes; l++) lobeOfKind(lobes[l * LOBE.stride + LOBE.kind]!).straight(l * LOBE.stride)
  return { light, passes: [...value], lobes: now.lobes }
}

const all = [
  ...MATERIALS.map(([name, body]) => [name, compileNetwork(mtlx(body), 's')] as const),
  ...starters.map(s => {
    const d = s.make()
    return [
      `the starter ${s.key}`,
      compileNetwork(d, nameOf(d.children.find(c => c.tag === 'surfacematerial')!)),
    ] as const
  }),
]

describe('programs of light and of passage', () => {
  it.each(all)('%s: give what the whole surface gives', (_, p) => {
    for (const tilt of [0, 0.5, 1.2, Math.PI - 0.4]) {
      const whole = asked(p, 'shade', tilt)
      expect(asked(p, 'light', tilt).light).toEqual(whole.light)
      expect(asked(p, 'passage', tilt).passes).toEqual(whole.passes)
    }
  })
  it('some of these shine, and something passes some', () => {
    expect(all.filter(([, p]) => asked(p, 'shade', 0.3).light.some(x => x > 0)).length).toBeGreaterThan(3)
    expect(all.filter(([, p]) => asked(p, 'shade', 0.3).passes.some(x => x > 0)).length).toBeGreaterThan(4)
  })
  it('a surface that does neither is not run at all, nor what it is made of', () => {
    const p = compileNetwork(
      mtlx(
        noise +
          node('convert', 'c', 'color3', input('in', 'float', 'k')) +
          node('open_pbr_surface', 's', 'surfaceshader', input('base_color', 'color3', 'c')),
      ),
      's',
    )
    const of = (name: string) => p.source.split(`function ${name}(`)[1]!.split('\n}')[0]!
    expect(of('shade')).toMatch(/noise3/)
    for (const name of ['light', 'passage']) expect(of(name)).not.toMatch(/push|noise/)
  })
})
