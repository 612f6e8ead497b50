import { element, emptyDocument, type Element } from './document'
import { insertCoat, insertCut, insertDeposit } from './layers'

const input = (name: string, type: string, value: string) => element('input', { name, type, value })
const surface = (name: string, title: string, inputs: Element[]) =>
  element('open_pbr_surface', { name, type: 'surfaceshader', wl_title: title, xpos: '2', ypos: '0' }, inputs)
const metal = (name: string, title: string, of: string, roughness: string) =>
  element('wl_metal', { name, type: 'surfaceshader', wl_title: title, xpos: '0', ypos: '0' }, [
    input('metal', 'string', of),
    input('roughness', 'float', roughness),
  ])

/** A document with one surface and its material. */
export function documentOf(material: string, root: Element): Element {
  return {
    ...emptyDocument(),
    children: [
      root,
      element('surfacematerial', { name: material, type: 'material', xpos: '5', ypos: '0' }, [
        element('input', { name: 'surfaceshader', type: 'surfaceshader', nodename: root.attributes.name! }),
      ]),
    ],
  }
}

/** A starter: first version of a class of material. */
export interface Starter {
  key: string
  title: string
  make(): Element
}

const wire = (name: string, type: string, from: string) => element('input', { name, type, nodename: from })
const node = (tag: string, name: string, type: string, x: number, y: number, inputs: Element[]) =>
  element(tag, { name, type, xpos: String(x), ypos: String(y) }, inputs)
/** Puts nodes before the surface of a document, and further inputs on it. */
function grown(document: Element, nodes: Element[], inputs: Element[]): Element {
  return {
    ...document,
    children: [
      ...nodes,
      ...document.children.map(c =>
        c.attributes.name === 'stock'
          ? {
              ...c,
              children: [
                ...c.children.filter(i => !inputs.some(n => n.attributes.name === i.attributes.name)),
                ...inputs,
              ],
            }
          : c,
      ),
    ],
  }
}
/** Position divided by the sizes of what shall be seen, metres, along the three axes. */
const scaledPosition = (x: string, y: string, z: string) => [
  node('position', 'position', 'vector3', -2, 0, []),
  node('divide', 'at_scale', 'vector3', -1, 0, [
    wire('in1', 'vector3', 'position'),
    input('in2', 'vector3', `${x}, ${y}, ${z}`),
  ]),
]
const fractal = (name: string, x: number, y: number, octaves: string, amplitude = '0.5') =>
  node('fractal3d', name, 'float', x, y, [
    wire('position', 'vector3', 'at_scale'),
    input('octaves', 'integer', octaves),
    input('amplitude', 'float', amplitude),
  ])

function brushedMetal(): Element {
  const d = documentOf('brushed_metal', metal('stock', 'Aluminium, raw stock', 'aluminium', '0.28'))
  return grown(
    d,
    [
      ...scaledPosition('0.00012', '0.02', '0.02'),
      fractal('grain', 0, 0, '2'),
      node('range', 'brushed', 'float', 1, 0, [
        wire('in', 'float', 'grain'),
        input('inlow', 'float', '-0.5'),
        input('inhigh', 'float', '0.5'),
        input('outlow', 'float', '0.16'),
        input('outhigh', 'float', '0.42'),
        input('doclamp', 'boolean', 'true'),
      ]),
    ],
    [wire('roughness', 'float', 'brushed')],
  )
}

function coatedWood(): Element {
  let d = documentOf(
    'coated_wood',
    surface('stock', 'Wood, raw stock', [
      input('specular_roughness', 'float', '0.55'),
      input('specular_ior', 'float', '1.5'),
    ]),
  )
  d = grown(
    d,
    [
      ...scaledPosition('0.06', '0.004', '0.004'),
      fractal('growth', 0, 0, '3'),
      node('sin', 'rings', 'float', 1, 1, [wire('in', 'float', 'turns')]),
      node('multiply', 'turns', 'float', 0.5, 1, [wire('in1', 'float', 'growth'), input('in2', 'float', '9')]),
      node('range', 'grain', 'float', 2, 1, [
        wire('in', 'float', 'rings'),
        input('inlow', 'float', '-1'),
        input('inhigh', 'float', '1'),
        input('doclamp', 'boolean', 'true'),
      ]),
      node('mix', 'wood_colour', 'color3', 3, 0.6, [
        input('fg', 'color3', '0.28, 0.14, 0.062'),
        input('bg', 'color3', '0.44, 0.25, 0.115'),
        wire('mix', 'float', 'grain'),
      ]),
    ],
    [wire('base_color', 'color3', 'wood_colour')],
  )
  return insertCoat(d, 'stock', 'Varnish').document
}

function stone(): Element {
  const d = documentOf('stone', surface('stock', 'Stone, raw stock', [input('specular_ior', 'float', '1.55')]))
  return grown(
    d,
    [
      ...scaledPosition('0.008', '0.008', '0.008'),
      fractal('cloud', 0, 0, '4'),
      node('worleynoise3d', 'grains', 'float', 0, 1.2, [wire('position', 'vector3', 'at_scale')]),
      node('mix', 'cloudy', 'color3', 1, 0, [
        input('fg', 'color3', '0.52, 0.49, 0.44'),
        input('bg', 'color3', '0.3, 0.29, 0.27'),
        wire('mix', 'float', 'cloud01'),
      ]),
      node('range', 'cloud01', 'float', 0.5, 0.6, [
        wire('in', 'float', 'cloud'),
        input('inlow', 'float', '-0.5'),
        input('inhigh', 'float', '0.5'),
        input('doclamp', 'boolean', 'true'),
      ]),
      node('smoothstep', 'crystals', 'float', 1, 1.2, [
        wire('in', 'float', 'grains'),
        input('low', 'float', '0.16'),
        input('high', 'float', '0.2'),
      ]),
      node('mix', 'stone_colour', 'color3', 2, 0.4, [
        wire('fg', 'color3', 'cloudy'),
        input('bg', 'color3', '0.09, 0.085, 0.08'),
        wire('mix', 'float', 'crystals'),
      ]),
      node('mix', 'polish', 'float', 2, 1.4, [
        input('fg', 'float', '0.32'),
        input('bg', 'float', '0.16'),
        wire('mix', 'float', 'crystals'),
      ]),
    ],
    [wire('base_color', 'color3', 'stone_colour'), wire('specular_roughness', 'float', 'polish')],
  )
}

function fabric(): Element {
  const d = documentOf(
    'fabric',
    surface('stock', 'Fabric', [
      input('specular_roughness', 'float', '0.85'),
      input('specular_weight', 'float', '0.4'),
    ]),
  )
  return grown(
    d,
    [
      ...scaledPosition('0.0011', '0.0011', '0.0011'),
      node('checkerboard', 'weave', 'color3', 0.6, 0, [
        input('color1', 'color3', '0.1, 0.11, 0.16'),
        input('color2', 'color3', '0.17, 0.18, 0.25'),
        input('uvtiling', 'vector2', '1, 1'),
        wire('texcoord', 'vector2', 'along'),
      ]),
      node('convert', 'along', 'vector2', 0, 0, [wire('in', 'vector3', 'at_scale')]),
    ],
    [wire('base_color', 'color3', 'weave')],
  )
}

/**
 * Starters by class. Values are common practice: IOR 1.5 for plastics and glass, paint of 60 to 120 µm over 25 µm
 * of primer, films of soapy water of some 400 nm with the index of water, 1.33.
 */
export const starters: readonly Starter[] = [
  {
    key: 'metal',
    title: 'Metal',
    make: () => documentOf('metal', metal('stock', 'Steel, raw stock', 'iron', '0.25')),
  },
  {
    key: 'glass',
    title: 'Glass',
    make: () =>
      documentOf(
        'glass',
        surface('stock', 'Glass, raw stock', [
          input('specular_roughness', 'float', '0'),
          input('specular_ior', 'float', '1.5'),
          input('transmission_weight', 'float', '1'),
          input('transmission_color', 'color3', '0.85, 0.95, 0.9'),
          input('transmission_depth', 'float', '0.01'),
        ]),
      ),
  },
  { key: 'brushed_metal', title: 'Brushed metal', make: brushedMetal },
  {
    key: 'frosted_glass',
    title: 'Frosted glass',
    make: () =>
      documentOf(
        'frosted_glass',
        surface('stock', 'Glass, raw stock', [
          input('specular_roughness', 'float', '0.35'),
          input('specular_ior', 'float', '1.5'),
          input('transmission_weight', 'float', '1'),
          input('transmission_color', 'color3', '0.9, 0.96, 0.94'),
          input('transmission_depth', 'float', '0.01'),
        ]),
      ),
  },
  {
    key: 'bubble',
    title: 'Bubble',
    make: () =>
      documentOf(
        'bubble',
        // a film of water in air: there is no glass about it
        surface('stock', 'Soap film', [
          input('specular_roughness', 'float', '0'),
          input('specular_ior', 'float', '1'),
          input('transmission_weight', 'float', '1'),
          input('geometry_thin_walled', 'boolean', 'true'),
          input('thin_film_weight', 'float', '1'),
          input('thin_film_thickness', 'float', '0.4'),
          input('thin_film_ior', 'float', '1.33'),
        ]),
      ),
  },
  {
    key: 'plastic',
    title: 'Plastic',
    make: () =>
      documentOf(
        'plastic',
        surface('stock', 'Polymer, raw stock', [
          input('base_color', 'color3', '0.55, 0.1, 0.08'),
          input('specular_roughness', 'float', '0.35'),
          input('specular_ior', 'float', '1.5'),
        ]),
      ),
  },
  {
    key: 'layered_paint',
    title: 'Layered paint',
    make: () => {
      let d = documentOf('layered_paint', metal('stock', 'Steel, raw stock', 'iron', '0.3'))
      const primer = insertDeposit(d, 'stock', 'Primer', '0.32, 0.27, 0.2', 2.5e-5)
      const paint = insertDeposit(primer.document, primer.name, 'Paint', '0.03, 0.16, 0.13', 8e-5)
      const cut = insertCut(paint.document, paint.name, 'stock')
      d = insertCoat(cut.document, cut.name).document
      return d
    },
  },
  {
    key: 'painted_metal',
    title: 'Painted metal',
    make: () => {
      const d = documentOf('painted_metal', metal('stock', 'Steel, raw stock', 'iron', '0.3'))
      const primer = insertDeposit(d, 'stock', 'Primer', '0.32, 0.27, 0.2', 2.5e-5)
      return insertDeposit(primer.document, primer.name, 'Paint', '0.32, 0.03, 0.02', 6e-5).document
    },
  },
  { key: 'coated_wood', title: 'Coated wood', make: coatedWood },
  { key: 'stone', title: 'Stone', make: stone },
  { key: 'fabric', title: 'Fabric', make: fabric },
  {
    key: 'emissive',
    title: 'Emissive',
    make: () =>
      documentOf(
        'emissive',
        surface('stock', 'Emitter', [
          input('base_color', 'color3', '0.1, 0.1, 0.1'),
          input('specular_roughness', 'float', '0.4'),
          input('emission_luminance', 'float', '4'),
          input('emission_color', 'color3', '1, 0.72, 0.4'),
        ]),
      ),
  },
]
