import { table } from '../../nodes/table'
import { element, type Element } from '../../network/document'
import { ownDefinitions } from '../../nodes/own'

/** Tags used anywhere in a document. */
function tags(e: Element, into: Set<string> = new Set()): Set<string> {
  into.add(e.tag)
  for (const c of e.children) tags(c, into)
  return into
}

/**
 * Ramp or curve with straight lines between its points: each further point is mixed in as its stretch is crossed.
 */
function straightPoints(name: string, type: string): Element[] {
  const input = (n: string, t: string, more: Record<string, string>) =>
    element('input', { name: n, type: t, ...more })
  const steps = [2, 3, 4, 5, 6, 7, 8].flatMap(k => {
    const before: Record<string, string> = k === 2 ? { interfacename: `${name}1` } : { nodename: `point${k - 1}` }
    return [
      element('remap', { name: `along${k}`, type: 'float' }, [
        input('in', 'float', { interfacename: 'in' }),
        input('inlow', 'float', { interfacename: `position${k - 1}` }),
        input('inhigh', 'float', { interfacename: `position${k}` }),
      ]),
      element('clamp', { name: `share${k}`, type: 'float' }, [input('in', 'float', { nodename: `along${k}` })]),
      element('mix', { name: `mixed${k}`, type }, [
        input('bg', type, before),
        input('fg', type, { interfacename: `${name}${k}` }),
        input('mix', 'float', { nodename: `share${k}` }),
      ]),
      element('ifgreatereq', { name: `point${k}`, type }, [
        input('value1', 'integer', { interfacename: 'count' }),
        input('value2', 'integer', { value: String(k) }),
        input('in1', type, { nodename: `mixed${k}` }),
        input('in2', type, before),
      ]),
    ]
  })
  return [...steps, element('output', { name: 'out', type, nodename: 'point8' })]
}

/** One number, whatever is wired. */
const alwaysNumber = (value: string): Element[] => [
  element('constant', { name: 'always', type: 'float' }, [
    element('input', { name: 'value', type: 'float', value }),
  ]),
  element('output', { name: 'out', type: 'float', nodename: 'always' }),
]

/** The nearest thing the standard can say, as a functional nodegraph, for readers that do not know our nodes. */
const EQUIVALENTS = table<Element[]>({
  wl_ramp: straightPoints('color', 'color3'),
  wl_curve: straightPoints('value', 'float'),
  // what asks for the shape needs rays: elsewhere nothing is worn, hidden or thin
  wl_curvature: alwaysNumber('0'),
  wl_occlusion: alwaysNumber('0'),
  wl_thickness: alwaysNumber('1'),
  wl_metal: [
    element('conductor_bsdf', { name: 'reflection', type: 'BSDF' }, [
      element('input', { name: 'ior', type: 'color3', value: '2.91, 2.93, 2.6' }),
      element('input', { name: 'extinction', type: 'color3', value: '3.05, 2.93, 2.75' }),
      element('input', { name: 'roughness', type: 'vector2', nodename: 'alpha' }),
      element('input', { name: 'normal', type: 'vector3', interfacename: 'normal' }),
    ]),
    element('multiply', { name: 'squared', type: 'float' }, [
      element('input', { name: 'in1', type: 'float', interfacename: 'roughness' }),
      element('input', { name: 'in2', type: 'float', interfacename: 'roughness' }),
    ]),
    element('convert', { name: 'alpha', type: 'vector2' }, [
      element('input', { name: 'in', type: 'float', nodename: 'squared' }),
    ]),
    element('surface', { name: 'surface', type: 'surfaceshader' }, [
      element('input', { name: 'bsdf', type: 'BSDF', nodename: 'reflection' }),
    ]),
    element('output', { name: 'out', type: 'surfaceshader', nodename: 'surface' }),
  ],
})

/**
 * Adds the definitions of our own nodes that a document uses, and an equivalent nodegraph where the standard can
 * say one
 * (a coat over any surface has none: the standard layers scattering, not surfaces). Definitions already there
 * stay.
 */
export function withOwnDefinitions(document: Element): Element {
  const used = tags(document)
  const added: Element[] = []
  for (const d of ownDefinitions) {
    if (!used.has(d.node) || document.children.some(c => c.tag === 'nodedef' && c.attributes.name === d.name))
      continue
    added.push(
      element('nodedef', { name: d.name, node: d.node, nodegroup: d.nodegroup }, [
        ...d.inputs.map(i =>
          element('input', {
            name: i.name,
            type: i.type,
            ...(i.default !== undefined ? { value: i.default } : {}),
            ...(i.defaultgeomprop ? { defaultgeomprop: i.defaultgeomprop } : {}),
            ...(i.enum ? { enum: i.enum } : {}),
          }),
        ),
        ...d.outputs.map(o => element('output', { name: o.name, type: o.type })),
      ]),
    )
    const equivalent = EQUIVALENTS[d.node]
    if (equivalent)
      added.push(element('nodegraph', { name: d.name.replace(/^ND_/, 'NG_'), nodedef: d.name }, equivalent))
  }
  return added.length ? { ...document, children: [...document.children, ...added] } : document
}
