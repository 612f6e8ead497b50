import { element, emptyDocument, type Element } from './document'
import { insertCoat, insertCut, insertDeposit } from './layers'

const input = (name: string, type: string, value: string) => element('input', { name, type, value })
const surface = (name: string, title: string, inputs: Element[]) => element('open_pbr_surface', { name, type: 'surfaceshader', wl_title: title, xpos: '2', ypos: '0' }, inputs)
const metal = (name: string, title: string, of: string, roughness: string) => element('wl_metal', { name, type: 'surfaceshader', wl_title: title, xpos: '0', ypos: '0' }, [input('metal', 'string', of), input('roughness', 'float', roughness)])

/** A document with one surface and its material. */
export function documentOf(material: string, root: Element): Element {
  return { ...emptyDocument(), children: [root, element('surfacematerial', { name: material, type: 'material', xpos: '5', ypos: '0' }, [element('input', { name: 'surfaceshader', type: 'surfaceshader', nodename: root.attributes.name! })])] }
}

/** A starter: first version of a class of material. */
export interface Starter { key: string, title: string, make(): Element }

/** Starters by class. Values are common practice: IOR 1.5 for plastics and glass, paint of 60 to 120 µm over 25 µm of primer. */
export const starters: readonly Starter[] = [
  { key: 'metal', title: 'Metal', make: () => documentOf('metal', metal('stock', 'Steel, raw stock', 'iron', '0.25')) },
  {
    key: 'glass', title: 'Glass', make: () => documentOf('glass', surface('stock', 'Glass, raw stock', [
      input('specular_roughness', 'float', '0'), input('specular_ior', 'float', '1.5'), input('transmission_weight', 'float', '1'), input('transmission_color', 'color3', '0.85, 0.95, 0.9'), input('transmission_depth', 'float', '0.01'),
    ])),
  },
  {
    key: 'plastic', title: 'Plastic', make: () => documentOf('plastic', surface('stock', 'Polymer, raw stock', [
      input('base_color', 'color3', '0.55, 0.1, 0.08'), input('specular_roughness', 'float', '0.35'), input('specular_ior', 'float', '1.5'),
    ])),
  },
  {
    key: 'layered_paint', title: 'Layered paint', make: () => {
      let d = documentOf('layered_paint', metal('stock', 'Steel, raw stock', 'iron', '0.3'))
      const primer = insertDeposit(d, 'stock', 'Primer', '0.32, 0.27, 0.2', 2.5e-5)
      const paint = insertDeposit(primer.document, primer.name, 'Paint', '0.03, 0.16, 0.13', 8e-5)
      const cut = insertCut(paint.document, paint.name, 'stock')
      d = insertCoat(cut.document, cut.name).document
      return d
    },
  },
]
