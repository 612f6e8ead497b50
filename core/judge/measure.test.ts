import { describe, expect, it } from 'vitest'
import { fresnelConductor } from '../optics/fresnel'
import { conductorByName, conductorK, conductorN } from '../optics/conductors'
import { materialOf, mtlx, pbr } from '../testing/setup'
import { measure } from './measure'

const of = (body: string, root = 's') => { const m = materialOf(mtlx(body), root); return (angles: number[], more: Partial<Parameters<typeof measure>[2]> = {}) => measure(m.shader, m.constants, { angles, wavelengths: [450, 550, 650], from: 'outside', samples: 2048, ...more }) }
const bound = (stderr: number) => Math.max(0.002, 4 * stderr)

/** Fresnel's equations written with angles (Born & Wolf §1.5.2, eqs. 20a–21b), as a second form beside the core's. */
function byAngles(degrees: number, n: number): number {
  if (degrees === 0) return ((n - 1) / (n + 1)) ** 2
  const i = degrees * Math.PI / 180, t = Math.asin(Math.sin(i) / n)
  return ((Math.sin(i - t) / Math.sin(i + t)) ** 2 + (Math.tan(i - t) / Math.tan(i + t)) ** 2) / 2
}

describe('a smooth dielectric of IOR 1.5', () => {
  const angles = [0, 15, 30, 45, 56.31, 65, 75, 85]
  const m = of(pbr({ transmission_weight: 1, specular_roughness: 0, specular_ior: 1.5 }))(angles, { samples: 64 })
  it.each(angles.map((a, i) => [a, i]))('reflects as Fresnel says at %f°, and passes the rest', (a, i) => {
    m.reflectance[i]!.forEach((R, k) => {
      expect(Math.abs(R - byAngles(a, 1.5))).toBeLessThan(bound(m.stderr[i]![k]!))
      expect(R + m.transmittance[i]![k]!).toBeCloseTo(1, 6)
    })
  })
  it('reflects everything from inside beyond the critical angle of 41.81°', () => {
    const inside = of(pbr({ transmission_weight: 1, specular_roughness: 0, specular_ior: 1.5 }))([0, 45], { from: 'inside', samples: 64 })
    expect(inside.reflectance[0]![0]).toBeCloseTo(0.04, 6)
    expect(inside.reflectance[1]![0]).toBeCloseTo(1, 6)
  })
})

describe('metals by name', () => {
  it.each(['gold', 'copper'])('%s reflects as its n and k say', (name) => {
    const angles = [0, 30, 60, 80], m = of(`<wl_metal name="s" type="surfaceshader"><input name="metal" type="string" value="${name}"/><input name="roughness" type="float" value="0"/></wl_metal>`)(angles, { samples: 16 }), metal = conductorByName(name)
    angles.forEach((a, i) => [450, 550, 650].forEach((nm, k) =>
      expect(Math.abs(m.reflectance[i]![k]! - fresnelConductor(Math.cos(a * Math.PI / 180), conductorN[metal]![nm - 380]!, conductorK[metal]![nm - 380]!))).toBeLessThan(bound(m.stderr[i]![k]!))))
  })
})

describe('furnace', () => {
  const lobes: [string, string, boolean][] = [
    ['white diffuse', pbr({ base_color: '1, 1, 1', specular_weight: 0 }), true],
    ['white mirror', pbr({ base_color: '1, 1, 1', base_metalness: 1, specular_color: '1, 1, 1', specular_roughness: 0 }), true],
    ['smooth clear glass', pbr({ transmission_weight: 1, specular_roughness: 0 }), true],
    ['glossy white', pbr({ base_color: '1, 1, 1', specular_roughness: 0 }), true],
    ['rough white', pbr({ base_color: '1, 1, 1', specular_roughness: 0.6 }), false],
    ['rough metal', pbr({ base_color: '1, 1, 1', base_metalness: 1, specular_color: '1, 1, 1', specular_roughness: 0.7 }), false],
    ['rough glass', pbr({ transmission_weight: 1, specular_roughness: 0.5 }), false],
    ['coated white', pbr({ base_color: '1, 1, 1', specular_roughness: 0.3, coat_weight: 1, coat_roughness: 0 }), false],
    ['three coats over white', `${pbr({ base_color: '1, 1, 1', specular_roughness: 0.2 }, 'a')}${['b', 'c', 's'].map((n, i) => `<wl_coat_over name="${n}" type="surfaceshader"><input name="base" type="surfaceshader" nodename="${['a', 'b', 'c'][i]}"/><input name="coat_roughness" type="float" value="${i * 0.15}"/></wl_coat_over>`).join('')}`, false],
    ['layer of the standard', `<dielectric_bsdf name="top" type="BSDF"><input name="roughness" type="vector2" value="0.1, 0.1"/></dielectric_bsdf><oren_nayar_diffuse_bsdf name="under" type="BSDF"><input name="color" type="color3" value="1, 1, 1"/></oren_nayar_diffuse_bsdf>
      <layer name="l" type="BSDF"><input name="top" type="BSDF" nodename="top"/><input name="base" type="BSDF" nodename="under"/></layer><surface name="s" type="surfaceshader"><input name="bsdf" type="BSDF" nodename="l"/></surface>`, false],
  ]
  it.each(lobes)('%s sends back no more than it gets', (_, body, lossless) => {
    const m = of(body)([0, 40, 70, 85], { samples: 8192 })
    m.reflectance.forEach((row, i) => row.forEach((R, k) => {
      const total = R + m.transmittance[i]![k]!
      // the estimate's own noise, of reflection and transmission, and half a per cent of the albedo table
      expect(total).toBeLessThan(1 + 4 * m.stderr[i]![k]! + 0.005)
      if (lossless) expect(total).toBeGreaterThan(0.99)
    }))
  })
})

describe('a plane plate', () => {
  it('absorbs by Beer–Lambert with all inner reflections: T = (1 − F)²t/(1 − F²t²)', () => {
    const m = of(pbr({ transmission_weight: 1, specular_roughness: 0, transmission_color: '0.25, 0.25, 0.25', transmission_depth: 0.002 }))([0, 60], { slab: 0.001, samples: 20000 })
    ;[0, 60].forEach((a, i) => {
      const F = byAngles(a, 1.5), t = 0.25 ** (0.5 / Math.cos(Math.asin(Math.sin(a * Math.PI / 180) / 1.5)))
      const T = (1 - F) ** 2 * t / (1 - F * F * t * t), R = F + (1 - F) ** 2 * F * t * t / (1 - F * F * t * t)
      expect(Math.abs(m.reflectance[i]![1]! - R)).toBeLessThan(bound(m.stderr[i]![1]!))
      expect(Math.abs(m.transmittance[i]![1]! - T)).toBeLessThan(0.006)
    })
  })
})

it('refuses angles and wavelengths that cannot be', () => {
  expect(() => of(pbr({}))([95])).toThrow('angle')
  expect(() => of(pbr({}))([0], { wavelengths: [200] })).toThrow('wavelength')
})
