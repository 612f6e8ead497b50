import { describe, expect, it } from 'vitest'
import { fresnelConductor } from '../optics/fresnel'
import { CONDUCTOR_NAMES, conductorByName, conductorK, conductorN } from '../optics/conductors'
import { materialOf, mtlx, pbr } from '../testing/setup'
import { filmReflectance } from '../optics/thin-film'
import { GLASS_NAMES, glassN } from '../optics/glasses'
import { measure } from './measure'

const of = (body: string, root = 's') => {
  const m = materialOf(mtlx(body), root)
  return (angles: number[], more: Partial<Parameters<typeof measure>[2]> = {}) =>
    measure(m.shader, m.constants, {
      angles,
      wavelengths: [450, 550, 650],
      from: 'outside',
      samples: 2048,
      ...more,
    })
}
const bound = (stderr: number) => Math.max(0.002, 4 * stderr)

/**
 * Fresnel's equations written with angles (Born & Wolf §1.5.2, eqs. 20a–21b), as a second form beside the
 * core's.
 */
function byAngles(degrees: number, n: number): number {
  if (degrees === 0) return ((n - 1) / (n + 1)) ** 2
  const i = (degrees * Math.PI) / 180
  const t = Math.asin(Math.sin(i) / n)
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
    const inside = of(pbr({ transmission_weight: 1, specular_roughness: 0, specular_ior: 1.5 }))([0, 45], {
      from: 'inside',
      samples: 64,
    })
    expect(inside.reflectance[0]![0]).toBeCloseTo(0.04, 6)
    expect(inside.reflectance[1]![0]).toBeCloseTo(1, 6)
  })
})

describe('metals by name', () => {
  it.each(CONDUCTOR_NAMES)('%s reflects as its n and k say', name => {
    const angles = [0, 30, 60, 80]
    const m = of(
      `<wl_metal name="s" type="surfaceshader"><input name="metal" type="string" value="${name}"/>
        <input name="roughness" type="float" value="0"/></wl_metal>`,
    )(angles, { samples: 16 })
    const metal = conductorByName(name)
    angles.forEach((a, i) =>
      [450, 550, 650].forEach((nm, k) =>
        expect(
          Math.abs(
            m.reflectance[i]![k]! -
              fresnelConductor(
                Math.cos((a * Math.PI) / 180),
                conductorN[metal]![nm - 380]!,
                conductorK[metal]![nm - 380]!,
              ),
          ),
        ).toBeLessThan(bound(m.stderr[i]![k]!)),
      ),
    )
  })
})

describe('the standard’s generalised reflection', () => {
  const node = (values: string) =>
    `<generalized_schlick_bsdf name="b" type="BSDF"><input name="roughness" type="vector2" value="0, 0"/>
      ${values}</generalized_schlick_bsdf>`
  const surface = '<surface name="s" type="surfaceshader"><input name="bsdf" type="BSDF" nodename="b"/></surface>'
  it(
    'rises from color0 to color90 by its exponent, tinted at 82° (MaterialX 1.39 specification, ' +
      'generalized_schlick_bsdf)',
    () => {
      const angles = [0, 40, 70, 81.787, 88]
      const m = of(
        node(
          `<input name="color0" type="color3" value="0.3, 0.3, 0.3"/>
          <input name="color82" type="color3" value="0.7, 0.7, 0.7"/>
          <input name="color90" type="color3" value="0.8, 0.8, 0.8"/><input name="exponent" type="float" value="3"/>`,
        ) + surface,
      )(angles, { samples: 16 })
      const F = (mu: number) => 0.3 + 0.5 * (1 - mu) ** 3
      const a = (F(1 / 7) * 0.3) / ((1 / 7) * (6 / 7) ** 6)
      angles.forEach((t, i) => {
        const mu = Math.cos((t * Math.PI) / 180)
        m.reflectance[i]!.forEach(R => expect(Math.abs(R - (F(mu) - a * mu * (1 - mu) ** 6))).toBeLessThan(0.002))
      })
      expect(Math.abs(m.reflectance[3]![0]! - 0.7 * F(1 / 7))).toBeLessThan(0.002)
    },
  )
  it('over white gives no more light than there is, whatever the exponent', () => {
    const m = of(`${node(`<input name="color0" type="color3" value="0.2, 0.2, 0.2"/>
        <input name="exponent" type="float" value="1"/>`)}<oren_nayar_diffuse_bsdf name="d" type="BSDF">
        <input name="color" type="color3" value="1, 1, 1"/></oren_nayar_diffuse_bsdf>
      <layer name="l" type="BSDF"><input name="top" type="BSDF" nodename="b"/>
      <input name="base" type="BSDF" nodename="d"/></layer><surface name="s" type="surfaceshader">
      <input name="bsdf" type="BSDF" nodename="l"/></surface>`)([0, 40, 60, 80, 87], { samples: 4096 })
    m.reflectance.forEach((row, i) =>
      row.forEach((R, k) => expect(R).toBeLessThan(1 + 4 * m.stderr[i]![k]! + 0.005)),
    )
  })
})

describe('furnace', () => {
  const lobes: [string, string, boolean][] = [
    ['white diffuse', pbr({ base_color: '1, 1, 1', specular_weight: 0 }), true],
    [
      'white mirror',
      pbr({ base_color: '1, 1, 1', base_metalness: 1, specular_color: '1, 1, 1', specular_roughness: 0 }),
      true,
    ],
    ['smooth clear glass', pbr({ transmission_weight: 1, specular_roughness: 0 }), true],
    ['glossy white', pbr({ base_color: '1, 1, 1', specular_roughness: 0 }), true],
    ['rough white', pbr({ base_color: '1, 1, 1', specular_roughness: 0.6 }), false],
    [
      'rough metal',
      pbr({ base_color: '1, 1, 1', base_metalness: 1, specular_color: '1, 1, 1', specular_roughness: 0.7 }),
      false,
    ],
    ['rough glass', pbr({ transmission_weight: 1, specular_roughness: 0.5 }), false],
    [
      'coated white',
      pbr({ base_color: '1, 1, 1', specular_roughness: 0.3, coat_weight: 1, coat_roughness: 0 }),
      false,
    ],
    [
      'three coats over white',
      `${pbr({ base_color: '1, 1, 1', specular_roughness: 0.2 }, 'a')}${['b', 'c', 's']
        .map(
          (n, i) => `<wl_coat_over name="${n}" type="surfaceshader">
        <input name="base" type="surfaceshader" nodename="${['a', 'b', 'c'][i]}"/>
        <input name="coat_roughness" type="float" value="${i * 0.15}"/></wl_coat_over>`,
        )
        .join('')}`,
      false,
    ],
    [
      'layer of the standard',
      `<dielectric_bsdf name="top" type="BSDF"><input name="roughness" type="vector2" value="0.1, 0.1"/>
        </dielectric_bsdf><oren_nayar_diffuse_bsdf name="under" type="BSDF">
        <input name="color" type="color3" value="1, 1, 1"/></oren_nayar_diffuse_bsdf>
      <layer name="l" type="BSDF"><input name="top" type="BSDF" nodename="top"/>
      <input name="base" type="BSDF" nodename="under"/></layer><surface name="s" type="surfaceshader">
      <input name="bsdf" type="BSDF" nodename="l"/></surface>`,
      false,
    ],
  ]
  it.each(lobes)('%s sends back no more than it gets', (_, body, lossless) => {
    const m = of(body)([0, 40, 70, 85], { samples: 4096 })
    m.reflectance.forEach((row, i) =>
      row.forEach((R, k) => {
        const total = R + m.transmittance[i]![k]!
        // the estimate's own noise, of reflection and transmission, and half a per cent of the albedo table
        expect(total).toBeLessThan(1 + 4 * m.stderr[i]![k]! + 0.005)
        if (lossless) expect(total).toBeGreaterThan(0.99)
      }),
    )
  })
})

describe('a plane plate', () => {
  it('absorbs by Beer–Lambert with all inner reflections: T = (1 − F)²t/(1 − F²t²)', () => {
    const m = of(
      pbr({
        transmission_weight: 1,
        specular_roughness: 0,
        transmission_color: '0.25, 0.25, 0.25',
        transmission_depth: 0.002,
      }),
    )([0, 60], { slab: 0.001, samples: 20000 })
    ;[0, 60].forEach((a, i) => {
      const F = byAngles(a, 1.5)
      const t = 0.25 ** (0.5 / Math.cos(Math.asin(Math.sin((a * Math.PI) / 180) / 1.5)))
      const T = ((1 - F) ** 2 * t) / (1 - F * F * t * t)
      const R = F + ((1 - F) ** 2 * F * t * t) / (1 - F * F * t * t)
      expect(Math.abs(m.reflectance[i]![1]! - R)).toBeLessThan(bound(m.stderr[i]![1]!))
      expect(Math.abs(m.transmittance[i]![1]! - T)).toBeLessThan(0.006)
    })
  })
})

it('refuses angles and wavelengths that cannot be', () => {
  expect(() => of(pbr({}))([95])).toThrow('angle')
  expect(() => of(pbr({}))([0], { wavelengths: [200] })).toThrow('wavelength')
})

describe('films', () => {
  const metal = (name: string, d: number, n: number) =>
    `<wl_metal name="s" type="surfaceshader"><input name="metal" type="string" value="${name}"/>
      <input name="roughness" type="float" value="0"/>
      <input name="film_thickness" type="float" value="${d}"/>
      <input name="film_ior" type="float" value="${n}"/></wl_metal>`
  const angles = [0, 30, 60, 80]
  const wavelengths = [400, 450, 500, 550, 600, 650, 700]
  it.each(['gold', 'titanium'])('on %s reflect by Airy’s sum over the table’s n and k', name => {
    const m = of(metal(name, 80, 2.4))(angles, { wavelengths, samples: 16 })
    const c = conductorByName(name)
    angles.forEach((a, i) =>
      wavelengths.forEach((nm, k) =>
        expect(
          Math.abs(
            m.reflectance[i]![k]! -
              filmReflectance(
                Math.cos((a * Math.PI) / 180),
                2.4,
                conductorN[c]![nm - 380]!,
                conductorK[c]![nm - 380]!,
                2 * 2.4 * 80,
                nm,
              ),
          ),
        ).toBeLessThan(bound(m.stderr[i]![k]!)),
      ),
    )
  })
  it('on glass reflect by Airy’s sum and let the rest pass', () => {
    const m = of(
      pbr({
        transmission_weight: 1,
        specular_roughness: 0,
        thin_film_weight: 1,
        thin_film_thickness: 0.42,
        thin_film_ior: 1.33,
      }),
    )(angles, { wavelengths, samples: 16 })
    angles.forEach((a, i) =>
      wavelengths.forEach((nm, k) => {
        expect(
          Math.abs(
            m.reflectance[i]![k]! -
              filmReflectance(Math.cos((a * Math.PI) / 180), 1.33, 1.5, 0, 2 * 1.33 * 420, nm),
          ),
        ).toBeLessThan(bound(m.stderr[i]![k]!))
        expect(m.reflectance[i]![k]! + m.transmittance[i]![k]!).toBeCloseTo(1, 6)
      }),
    )
  })
})

describe('measured glass', () => {
  it('reflects each wavelength by its own index', () => {
    const m = of(
      `<wl_glass name="s" type="surfaceshader">
        <input name="glass" type="string" value="dense flint 785/257"/></wl_glass>`,
    )([0, 50], { wavelengths: [400, 550, 700], samples: 16 })
    const n = glassN[GLASS_NAMES.indexOf('dense flint 785/257')]!
    ;[0, 50].forEach((a, i) =>
      [400, 550, 700].forEach((nm, k) =>
        expect(Math.abs(m.reflectance[i]![k]! - byAngles(a, n[nm - 380]!))).toBeLessThan(bound(m.stderr[i]![k]!)),
      ),
    )
  })
})

describe('scattering', () => {
  it('a half-space below the surface shows the colour asked for, seen diffusely', () => {
    // Gauss–Legendre over µ²: the colour is the albedo for diffuse light
    const angles = [0.0694318, 0.3300095, 0.6699905, 0.9305682].map(x => (Math.acos(Math.sqrt(x)) * 180) / Math.PI)
    const weights = [0.1739274, 0.3260726, 0.3260726, 0.1739274]
    const m = of(
      pbr({
        specular_weight: 0,
        subsurface_weight: 1,
        subsurface_color: '0.6, 0.6, 0.6',
        subsurface_radius: 0.01,
        subsurface_radius_scale: '1, 1, 1',
      }),
    )(angles, { wavelengths: [550], samples: 4000 })
    expect(Math.abs(m.reflectance.reduce((s, r, i) => s + r[0]! * weights[i]!, 0) - 0.6)).toBeLessThan(0.02)
  })
  it('a milky plate that absorbs nothing sends all light back or on', () => {
    const m = of(
      pbr({
        transmission_weight: 1,
        specular_roughness: 0,
        transmission_color: '0.3, 0.3, 0.3',
        transmission_depth: 0.01,
        transmission_scatter: '1.20397, 1.20397, 1.20397',
      }),
    )([0, 45], { wavelengths: [450, 550, 650], samples: 2000, slab: 0.01 })
    m.reflectance.forEach((R, i) =>
      R.forEach((r, k) => {
        expect(r).toBeGreaterThan(0.1)
        expect(Math.abs(r + m.transmittance[i]![k]! - 1)).toBeLessThan(0.02)
      }),
    )
  })
  it(
    'the albedo of an index-matched scattering half-space is Chandrasekhar’s, 1 − H(µ)·√(1 − ϖ) ' +
      '' +
      'at ϖ = 0.9',
    () => {
      // extinction 100/m, of which 90 scatter: colour exp(−1) at 10 mm
      const m = of(
        pbr({
          transmission_weight: 1,
          specular_roughness: 0,
          specular_ior: 1,
          transmission_color: `${Math.exp(-1)}, ${Math.exp(-1)}, ${Math.exp(-1)}`,
          transmission_depth: 0.01,
          transmission_scatter: '0.9, 0.9, 0.9',
        }),
      )([0, 60], { wavelengths: [550], samples: 6000 })
      const w = 0.9
      const N = 200
      const mu = Array.from({ length: N }, (_, i) => (i + 0.5) / N)
      let H = mu.map(() => 1)
      for (let n = 0; n < 60; n++)
        H = mu.map(
          x => 1 / (Math.sqrt(1 - w) + (0.5 * w * mu.reduce((s, y, j) => s + (y * H[j]!) / (x + y), 0)) / N),
        )
      ;[1, 0.5].forEach((x, i) => {
        const h = 1 / (Math.sqrt(1 - w) + (0.5 * w * mu.reduce((s, y, j) => s + (y * H[j]!) / (x + y), 0)) / N)
        expect(Math.abs(m.reflectance[i]![0]! - (1 - h * Math.sqrt(1 - w)))).toBeLessThan(0.015)
      })
    },
  )
})
