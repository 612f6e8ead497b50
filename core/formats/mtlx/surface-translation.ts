/**
 * Other surfaces of the standard libraries (standard_surface, gltf_pbr, UsdPreviewSurface) as the open surface.
 * Each row names an input, what it becomes, the default that must be written because the open surface has another
 * one, and a factor where the units differ. What has no equivalent is said in words. Sources: the definitions of
 * MaterialX 1.39; glTF 2.0 and its KHR_materials extensions; the translation graphs' correspondence of names is
 * common practice.
 */
import { table } from '../../nodes/table'
import { element, inputOf, nameOf, type Element } from '../../network/document'

type Row = readonly [from: string, to: string, fallback?: string, factor?: number]
interface Surface {
  rows: readonly Row[]
  /**
   * Inputs without equivalent, by the value that makes them harmless (empty: any stated value is lost), and what
   * to say.
   */
  lost: readonly (readonly [input: string, harmless: string, says: string])[]
  /** Inputs that are always written. */
  always: readonly (readonly [name: string, type: string, value: string])[]
  /** A weight of 1 where an input is stated and not zero. */
  weights: readonly (readonly [input: string, weight: string])[]
  /** Rotation of the grain, in turns of so many degrees. */
  rotation?: readonly [input: string, degrees: number, tangent: string]
}

const SURFACES = table<Surface>({
  standard_surface: {
    rows: [
      ['base', 'base_weight'],
      ['base_color', 'base_color'],
      ['diffuse_roughness', 'base_diffuse_roughness'],
      ['metalness', 'base_metalness'],
      ['specular', 'specular_weight'],
      ['specular_color', 'specular_color'],
      ['specular_roughness', 'specular_roughness', '0.2'],
      ['specular_IOR', 'specular_ior'],
      ['specular_anisotropy', 'specular_roughness_anisotropy'],
      ['transmission', 'transmission_weight'],
      ['transmission_color', 'transmission_color'],
      ['transmission_depth', 'transmission_depth'],
      ['transmission_scatter', 'transmission_scatter'],
      ['transmission_scatter_anisotropy', 'transmission_scatter_anisotropy'],
      ['transmission_dispersion', 'transmission_dispersion_abbe_number'],
      ['subsurface', 'subsurface_weight'],
      ['subsurface_color', 'subsurface_color', '1, 1, 1'],
      ['subsurface_radius', 'subsurface_radius_scale', '1, 1, 1'],
      ['subsurface_scale', 'subsurface_radius'],
      ['subsurface_anisotropy', 'subsurface_scatter_anisotropy'],
      ['sheen', 'fuzz_weight'],
      ['sheen_color', 'fuzz_color'],
      ['sheen_roughness', 'fuzz_roughness', '0.3'],
      ['coat', 'coat_weight'],
      ['coat_color', 'coat_color'],
      ['coat_roughness', 'coat_roughness', '0.1'],
      ['coat_anisotropy', 'coat_roughness_anisotropy'],
      ['coat_IOR', 'coat_ior', '1.5'],
      ['coat_normal', 'geometry_coat_normal'],
      ['thin_film_thickness', 'thin_film_thickness', undefined, 0.001],
      ['thin_film_IOR', 'thin_film_ior', '1.5'],
      ['emission', 'emission_luminance'],
      ['emission_color', 'emission_color'],
      ['thin_walled', 'geometry_thin_walled'],
      ['normal', 'geometry_normal'],
      ['tangent', 'geometry_tangent'],
    ],
    lost: [
      ['transmission_extra_roughness', '0', 'a roughness of its own for what passes'],
      ['coat_affect_color', '0', 'the coat’s own saturation of the base'],
      ['coat_affect_roughness', '0', 'how much the coat roughens the base: the open surface says it by itself'],
      ['coat_rotation', '0', 'the turn of the coat’s grain'],
      ['opacity', '1, 1, 1', 'coloured opacity: its mean is kept where it is a plain value'],
    ],
    always: [['coat_darkening', 'float', '0']],
    weights: [
      ['thin_film_thickness', 'thin_film_weight'],
      ['transmission_dispersion', 'transmission_dispersion_scale'],
    ],
    rotation: ['specular_rotation', 360, 'geometry_tangent'],
  },
  gltf_pbr: {
    rows: [
      ['base_color', 'base_color', '1, 1, 1'],
      ['metallic', 'base_metalness', '1'],
      ['roughness', 'specular_roughness', '1'],
      ['normal', 'geometry_normal'],
      ['tangent', 'geometry_tangent'],
      ['transmission', 'transmission_weight'],
      ['specular', 'specular_weight'],
      ['specular_color', 'specular_color'],
      ['ior', 'specular_ior'],
      ['iridescence', 'thin_film_weight'],
      ['iridescence_ior', 'thin_film_ior', '1.3'],
      ['iridescence_thickness', 'thin_film_thickness', '0.1', 0.001],
      ['sheen_color', 'fuzz_color'],
      ['sheen_roughness', 'fuzz_roughness', '0'],
      ['clearcoat', 'coat_weight'],
      ['clearcoat_roughness', 'coat_roughness'],
      ['clearcoat_normal', 'geometry_coat_normal'],
      ['emissive', 'emission_color', '0, 0, 0'],
      ['emissive_strength', 'emission_luminance', '1'],
      ['attenuation_distance', 'transmission_depth'],
      ['attenuation_color', 'transmission_color'],
      ['anisotropy_strength', 'specular_roughness_anisotropy'],
      ['alpha', 'geometry_opacity'],
    ],
    lost: [
      ['occlusion', '1', 'the baked occlusion: occlusion is traced'],
      ['alpha_mode', '', 'the mode of its opacity: partly open surfaces are'],
    ],
    always: [
      ['coat_darkening', 'float', '0'],
      ['coat_ior', 'float', '1.5'],
    ],
    weights: [['sheen_color', 'fuzz_weight']],
    rotation: ['anisotropy_rotation', 180 / Math.PI, 'geometry_tangent'],
  },
  UsdPreviewSurface: {
    rows: [
      ['diffuseColor', 'base_color', '0.18, 0.18, 0.18'],
      ['emissiveColor', 'emission_color', '0, 0, 0'],
      ['metallic', 'base_metalness'],
      ['roughness', 'specular_roughness', '0.5'],
      ['clearcoat', 'coat_weight'],
      ['clearcoatRoughness', 'coat_roughness', '0.01'],
      ['opacity', 'geometry_opacity'],
      ['ior', 'specular_ior'],
      ['normal', 'geometry_normal'],
    ],
    lost: [
      ['useSpecularWorkflow', '0', 'its specular workflow: metalness and index are used'],
      ['specularColor', '', 'its specular colour'],
      ['opacityMode', '0', 'the mode of its opacity'],
      ['opacityThreshold', '0', 'the threshold of its opacity'],
      ['displacement', '0', 'its displacement'],
      ['occlusion', '1', 'its occlusion: occlusion is traced'],
    ],
    always: [
      ['coat_darkening', 'float', '0'],
      ['emission_luminance', 'float', '1'],
    ],
    weights: [['emissiveColor', '']],
  },
})

/** Inputs that only make sense with another one: not written as a default where that is absent. */
const NEEDS = table<string>({
  subsurface_color: 'subsurface',
  subsurface_radius: 'subsurface',
  sheen_roughness: 'sheen',
  coat_roughness: 'coat',
  coat_IOR: 'coat',
  thin_film_IOR: 'thin_film_thickness',
  iridescence_ior: 'iridescence',
  iridescence_thickness: 'iridescence',
  emissive_strength: 'emissive',
  emissive: 'emissive',
  clearcoatRoughness: 'clearcoat',
  emissiveColor: 'emissiveColor',
})

/**
 * Translates every such surface of a document, in its place and under its name.
 * @returns the same document where there is none
 */
export function translateSurfaces(document: Element): { document: Element; lost: string[] } {
  const lost: string[] = []
  let changed = false
  const inside = (children: Element[]): Element[] => {
    const taken = new Set(children.map(nameOf))
    const added: Element[] = []
    const out = children.map((e): Element => {
      if (e.tag === 'nodegraph') return { ...e, children: inside(e.children) }
      const surface = SURFACES[e.tag]
      if (!surface || e.attributes.type !== 'surfaceshader') return e
      changed = true
      return translate(e, surface, taken, added, lost)
    })
    return [...out, ...added]
  }
  const children = inside(document.children)
  return changed ? { document: { ...document, children }, lost } : { document, lost }
}

function translate(e: Element, s: Surface, taken: Set<string>, added: Element[], lost: string[]): Element {
  const inputs: Element[] = []
  const name = nameOf(e)
  const says = (what: string) => lost.push(`${name}: ${what} has no equivalent`)
  const fresh = (base: string) => {
    let n = base
    for (let i = 2; taken.has(n); i++) n = base + i
    taken.add(n)
    return n
  }
  const isZero = (value: string | undefined) => value !== undefined && value.split(',').every(x => Number(x) === 0)
  const wired = (i: Element) => i.attributes.value === undefined
  for (const [from, to, fallback, factor] of s.rows) {
    const stated = inputOf(e, from)
    if (!stated) {
      if (fallback !== undefined && (NEEDS[from] === undefined || inputOf(e, NEEDS[from]!)))
        inputs.push(
          element('input', { name: to, type: fallback.includes(',') ? 'color3' : 'float', value: fallback }),
        )
      continue
    }
    if (factor === undefined) {
      inputs.push({ ...stated, attributes: { ...stated.attributes, name: to } })
      continue
    }
    if (!wired(stated)) {
      inputs.push(
        element('input', {
          name: to,
          type: 'float',
          value: String(+(Number(stated.attributes.value) * factor).toPrecision(7)),
        }),
      )
      continue
    }
    const scaled = fresh(`${name}_${to}`)
    const { name: _, ...source } = stated.attributes
    added.push(
      element('multiply', { name: scaled, type: 'float' }, [
        element('input', { name: 'in1', ...source }),
        element('input', { name: 'in2', type: 'float', value: String(factor) }),
      ]),
    )
    inputs.push(element('input', { name: to, type: 'float', nodename: scaled }))
  }
  for (const [input, weight] of s.weights) {
    const i = inputOf(e, input)
    if (weight && i && !isZero(i.attributes.value))
      inputs.push(element('input', { name: weight, type: 'float', value: '1' }))
  }
  for (const [n, type, value] of s.always)
    if (!inputs.some(i => nameOf(i) === n)) inputs.push(element('input', { name: n, type, value }))
  for (const [input, harmless, what] of s.lost) {
    const i = inputOf(e, input)
    if (i && i.attributes.value?.replace(/\s/g, '') !== harmless.replace(/\s/g, '')) says(what)
  }
  const opacity =
    e.tag === 'standard_surface' ? inputOf(e, 'opacity')?.attributes.value?.split(',').map(Number) : undefined
  if (opacity?.some(x => x < 1))
    inputs.push(
      element('input', {
        name: 'geometry_opacity',
        type: 'float',
        value: String(+(opacity.reduce((a, b) => a + b, 0) / opacity.length).toPrecision(6)),
      }),
    )
  const turn = s.rotation && inputOf(e, s.rotation[0])
  if (s.rotation && turn && !isZero(turn.attributes.value)) {
    if (wired(turn)) says('a grain turned by a wire')
    else {
      const tangent = fresh(`${name}_tangent`)
      const turned = fresh(`${name}_grain`)
      const normal = fresh(`${name}_normal`)
      added.push(
        element('tangent', { name: tangent, type: 'vector3' }, [
          element('input', { name: 'space', type: 'string', value: 'world' }),
        ]),
        element('normal', { name: normal, type: 'vector3' }, [
          element('input', { name: 'space', type: 'string', value: 'world' }),
        ]),
        element('rotate3d', { name: turned, type: 'vector3' }, [
          element('input', { name: 'in', type: 'vector3', nodename: tangent }),
          element('input', {
            name: 'amount',
            type: 'float',
            value: String(+(Number(turn.attributes.value) * s.rotation[1]).toPrecision(7)),
          }),
          element('input', { name: 'axis', type: 'vector3', nodename: normal }),
        ]),
      )
      inputs.push(element('input', { name: s.rotation[2], type: 'vector3', nodename: turned }))
    }
  }
  const { nodedef: _, ...attributes } = e.attributes
  return {
    ...e,
    tag: 'open_pbr_surface',
    attributes,
    children: [...inputs, ...e.children.filter(c => c.tag !== 'input')],
  }
}
