/**
 * A material as a history of deposits and cuts, read from its network and written back to it. Nothing is stored
 * twice: layers are the nodes along the spine of surfaces, from the material down: `wl_coat_over` is a clear coat;
 * a `mix` whose foreground is a surface of its own is a deposit, one whose foreground is a surface further down
 * the spine is a cut that lays that one bare; what is left at the end is the raw stock.
 */
import {
  addElement,
  addNode,
  changeElement,
  connect,
  EditError,
  freeName,
  rewire,
  setAttribute,
  setValue,
} from './edit'
import { setHidingThickness } from './hiding'
import { statedThickness, type ThickLayer } from './thickness'
import { childNamed, element, inputOf, materialsOf, nameOf, type Element } from './document'

/** The node on the spine is the mix, the coat, or the stock's surface; a deposit has a surface of its own. */
export interface Layer extends ThickLayer {
  title: string
  /** Metres; undefined where none is stated. */
  thickness?: number
  off: boolean
  /** What a cut lays bare: the spine node below the deepest layer it takes away. */
  bare?: string
}

const driver = (node: Element, input: string): string | undefined => inputOf(node, input)?.attributes.nodename
/** Input of a spine node that leads further down. */
export const belowInput = (node: Element): string | undefined =>
  node.tag === 'mix' ? 'bg' : node.tag === 'wl_coat_over' ? 'base' : undefined

/** Spine nodes from the top down. */
function spine(document: Element, material: Element): Element[] {
  const out: Element[] = []
  let name = driver(material, 'surfaceshader')
  while (name !== undefined && out.length < 256) {
    const node = childNamed(document, name)
    if (!node || out.includes(node)) break
    out.push(node)
    const below = belowInput(node)
    name = below && driver(node, below)
  }
  return out
}

const words = (name: string) => {
  const t = name.replace(/_/g, ' ')
  return t.charAt(0).toUpperCase() + t.slice(1)
}

/** Reads the layers of a material, from the raw stock up. Empty when the material has no surface. */
export function layersOf(document: Element, materialName?: string): Layer[] {
  const material = materialsOf(document).find(m => materialName === undefined || nameOf(m) === materialName)
  if (!material) return []
  const nodes = spine(document, material)
  const names = nodes.map(nameOf)
  return nodes
    .map((node, i): Layer => {
      const base = { node: nameOf(node), off: node.attributes.wl_off === 'true' }
      const thick = (kind: Layer['kind'], e: Element | undefined) => {
        const layer = { kind, node: base.node, surface: e ? nameOf(e) : base.node }
        const stated = statedThickness(document, layer) ?? e?.attributes.wl_thickness
        return stated !== undefined ? { thickness: Number(stated) } : {}
      }
      const title = (e: Element) => e.attributes.wl_title ?? words(nameOf(e))
      if (node.tag === 'wl_coat_over')
        return { ...base, kind: 'coat', surface: base.node, title: title(node), ...thick('coat', node) }
      if (node.tag === 'mix') {
        const fg = driver(node, 'fg')
        if (fg !== undefined && names.indexOf(fg) > i)
          return { ...base, kind: 'cut', surface: base.node, title: title(node), bare: fg }
        const own = fg !== undefined ? childNamed(document, fg) : undefined
        return {
          ...base,
          kind: 'deposit',
          surface: own ? nameOf(own) : base.node,
          title: title(own ?? node),
          ...thick('deposit', own),
        }
      }
      return { ...base, kind: 'stock', surface: base.node, title: title(node), ...thick('stock', node) }
    })
    .reverse()
}

/** Rewires those that lie on spine node `from` (not cuts that lay it bare) to lie on `to`. */
export const liftOnto = (document: Element, from: string, to: string, except: string): Element =>
  rewire(
    document,
    from,
    to,
    (node, input) => nameOf(node) !== except && (node.tag === 'surfacematerial' || input === belowInput(node)),
  )

const place = (document: Element, name: string, dx: number, dy: number): { xpos: string; ypos: string } => {
  const at = childNamed(document, name)?.attributes ?? {}
  return { xpos: String(Number(at.xpos ?? 0) + dx), ypos: String(Number(at.ypos ?? 0) + dy) }
}

/** Lays a clear coat over the spine node `over`. @returns the new document and the coat's name */
export function insertCoat(
  document: Element,
  over: string,
  title = 'Clear coat',
): { document: Element; name: string } {
  const name = freeName(document, title.toLowerCase())
  const tint = freeName(document, name + '_tint')
  let d = addElement(
    document,
    '',
    element('power', { name: tint, type: 'color3', ...place(document, over, 0.4, -1.1) }, [
      element('input', { name: 'in1', type: 'color3', value: '0.98, 0.97, 0.93' }),
      element('input', { name: 'in2', type: 'float', value: '1' }),
    ]),
  )
  d = addElement(
    d,
    '',
    element(
      'wl_coat_over',
      {
        name,
        type: 'surfaceshader',
        wl_title: title,
        wl_thickness: '4e-05',
        wl_reference: '4e-05',
        ...place(document, over, 1, -0.3),
      },
      [
        element('input', { name: 'coat_color', type: 'color3', nodename: tint }),
        element('input', { name: 'coat_roughness', type: 'float', value: '0.08' }),
        element('input', { name: 'coat_ior', type: 'float', value: '1.5' }),
      ],
    ),
  )
  d = liftOnto(d, over, name, name)
  d = changeElement(d, name, n => ({
    ...n,
    children: [element('input', { name: 'base', type: 'surfaceshader', nodename: over }), ...n.children],
  }))
  return { document: d, name }
}

/** Lays an opaque deposit over the spine node `over`. @returns the new document and the deposit's spine node */
export function insertDeposit(
  document: Element,
  over: string,
  title = 'Paint',
  colour = '0.2, 0.2, 0.2',
  thickness = 6e-5,
): { document: Element; name: string } {
  const surface = freeName(document, title.toLowerCase())
  let d = addElement(
    document,
    '',
    element(
      'open_pbr_surface',
      {
        name: surface,
        type: 'surfaceshader',
        wl_title: title,
        wl_thickness: String(thickness),
        ...place(document, over, 0.3, 1.1),
      },
      [
        element('input', { name: 'base_color', type: 'color3', value: colour }),
        element('input', { name: 'specular_roughness', type: 'float', value: '0.35' }),
      ],
    ),
  )
  const name = freeName(d, `on_${surface}`)
  d = addElement(
    d,
    '',
    element('mix', { name, type: 'surfaceshader', ...place(document, over, 1, 0) }, [
      element('input', { name: 'mix', type: 'float', value: '1' }),
    ]),
  )
  d = liftOnto(d, over, name, name)
  d = changeElement(d, name, n => ({
    ...n,
    children: [
      element('input', { name: 'fg', type: 'surfaceshader', nodename: surface }),
      element('input', { name: 'bg', type: 'surfaceshader', nodename: over }),
      ...n.children,
    ],
  }))
  return { document: d, name }
}

/**
 * Cuts through everything above the spine node `bare`, on top of the spine node `over`. The mask is edge wear:
 * curvature made crisp.
 * @param radius of the curvature, metres
 * @returns the new document and the cut's spine node
 */
export function insertCut(
  document: Element,
  over: string,
  bare: string,
  title = 'Edge wear',
  radius = 0.0016,
): { document: Element; name: string } {
  if (over === bare) throw new EditError('a cut needs something above what it lays bare')
  let d = document
  const curvature = addNode(
    d,
    '',
    'wl_curvature',
    'float',
    Number(place(d, over, -1, -2).xpos),
    Number(place(d, over, -1, -2).ypos),
  )
  d = setValue(curvature.document, curvature.path, 'radius', 'float', String(radius))
  const crisp = addNode(
    d,
    '',
    'smoothstep',
    'float',
    Number(place(d, over, 0, -2).xpos),
    Number(place(d, over, 0, -2).ypos),
  )
  d = setValue(setValue(crisp.document, crisp.path, 'low', 'float', '0.35'), crisp.path, 'high', 'float', '0.5')
  d = connect(d, curvature.path, crisp.path, 'in')
  const name = freeName(d, title.toLowerCase())
  d = addElement(
    d,
    '',
    element('mix', { name, type: 'surfaceshader', wl_title: title, ...place(document, over, 1, 0) }, [
      element('input', { name: 'mix', type: 'float', nodename: crisp.path }),
    ]),
  )
  d = liftOnto(d, over, name, name)
  d = changeElement(d, name, n => ({
    ...n,
    children: [
      element('input', { name: 'fg', type: 'surfaceshader', nodename: bare }),
      element('input', { name: 'bg', type: 'surfaceshader', nodename: over }),
      ...n.children,
    ],
  }))
  return { document: d, name }
}

/** Takes a layer out. The stock cannot be taken out. Nodes that fed it alone stay in the network. */
export function removeLayer(document: Element, node: string): Element {
  const e = childNamed(document, node)
  const below = e && belowInput(e) && driver(e, belowInput(e)!)
  if (!e || !below) throw new EditError('the raw stock cannot be taken out')
  const own = e.tag === 'mix' ? driver(e, 'fg') : undefined
  const layer = layersOf(document).find(l => l.node === node)
  let d = rewire(document, node, below, n => nameOf(n) !== node)
  // a cut that laid bare what now lies directly under it has nothing left to take away: its foreground is its
  // background
  d = {
    ...d,
    children: d.children.filter(c => nameOf(c) !== node && !(layer?.kind === 'deposit' && nameOf(c) === own)),
  }
  return d
}

/** Switches a layer off or on. */
export const setLayerOff = (document: Element, node: string, off: boolean): Element =>
  setAttribute(document, node, 'wl_off', off ? 'true' : undefined)

/**
 * Sets the thickness of a deposit or coat, metres. A coat's colour is its tint to the power of thickness over
 * reference thickness.
 */
export function setThickness(document: Element, layer: Layer, metres: number): Element {
  if (!(metres > 0 && metres < 1)) throw new EditError('a thickness lies between 0 and 1 m')
  let d = setAttribute(document, layer.surface, 'wl_thickness', String(+metres.toPrecision(6)))
  if (layer.kind === 'deposit') return setHidingThickness(d, layer.node, metres)
  if (layer.kind !== 'coat') return d
  const coat = childNamed(d, layer.surface)!
  const power = childNamed(d, driver(coat, 'coat_color') ?? '')
  const reference = Number(coat.attributes.wl_reference ?? metres)
  if (coat.attributes.wl_reference === undefined)
    d = setAttribute(d, layer.surface, 'wl_reference', String(metres))
  if (power?.tag === 'power' && !driver(power, 'in2'))
    d = setValue(d, nameOf(power), 'in2', 'float', String(+(metres / reference).toPrecision(6)))
  return d
}

/** Makes a deposit or the stock another class of matter, keeping its place, name and thickness. */
export function setMatter(
  document: Element,
  surface: string,
  matter: 'paint' | 'metal' | 'glass' | 'plastic',
  metal = 'iron',
): Element {
  return changeElement(document, surface, e => {
    const attributes = { ...e.attributes }
    const normal = e.children.filter(
      c => ['geometry_normal', 'normal'].includes(nameOf(c)) && c.attributes.nodename,
    )
    const roughness = e.children.find(c => ['specular_roughness', 'roughness'].includes(nameOf(c)))
    const rename = (i: Element | undefined, name: string) =>
      i ? [{ ...i, attributes: { ...i.attributes, name } }] : []
    if (matter === 'metal')
      return element('wl_metal', attributes, [
        element('input', { name: 'metal', type: 'string', value: metal }),
        ...rename(roughness ?? element('input', { name: 'roughness', type: 'float', value: '0.25' }), 'roughness'),
        ...rename(normal[0], 'normal'),
      ])
    const base =
      e.tag === 'open_pbr_surface'
        ? e.children.filter(c => !['base_metalness', 'transmission_weight'].includes(nameOf(c)))
        : [
            element('input', { name: 'base_color', type: 'color3', value: '0.4, 0.4, 0.4' }),
            ...rename(roughness, 'specular_roughness'),
            ...rename(normal[0], 'geometry_normal'),
          ]
    const glass =
      matter === 'glass' ? [element('input', { name: 'transmission_weight', type: 'float', value: '1' })] : []
    return element('open_pbr_surface', attributes, [...base, ...glass])
  })
}
