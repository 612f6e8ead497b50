import { table } from '../../nodes/table'
import { type Element, element, nameOf } from '../../network/document'
import { COMPONENTS } from '../../nodes/types'

/**
 * Brings a document of an older version to 1.39 (MaterialX 1.39 specification, "Changes from 1.38"): the channels
 * attribute becomes extract nodes, swizzle of one channel becomes extract, the space of a normal map goes where it
 * is the tangent space.
 */
export function upgradeDocument(document: Element): Element {
  const version = document.attributes.version!
  if (/^1\.39/.test(version)) return document
  return {
    ...document,
    attributes: { ...document.attributes, version: '1.39' },
    children: upgradeContainer(document.children),
  }
}

const PLACES = table<number>({ r: 0, x: 0, u: 0, g: 1, y: 1, v: 1, b: 2, z: 2, a: 3, w: 3 })

function upgradeContainer(children: Element[]): Element[] {
  const taken = new Set(children.map(nameOf))
  const typeOf = new Map(children.map(c => [nameOf(c), c.attributes.type ?? '']))
  const added: Element[] = []
  const unique = (base: string) => {
    let n = base
    for (let i = 2; taken.has(n); i++) n = base + i
    taken.add(n)
    return n
  }

  function upgradeInput(input: Element): Element {
    const { channels, ...rest } = input.attributes
    if (channels === undefined || rest.nodename === undefined) return input
    const from = typeOf.get(rest.nodename) ?? 'color3'
    const parts = [...channels].map(letter => {
      const name = unique(`${rest.nodename}_${letter}`)
      added.push(
        element('extract', { name, type: 'float' }, [
          element('input', { name: 'in', type: from, nodename: rest.nodename! }),
          element('input', { name: 'index', type: 'integer', value: String(PLACES[letter] ?? 0) }),
        ]),
      )
      return name
    })
    if (parts.length === 1) return { ...input, attributes: { ...rest, nodename: parts[0]! } }
    const name = unique(`${rest.nodename}_${channels}`)
    added.push(
      element(
        `combine${parts.length}`,
        { name, type: rest.type ?? 'color3' },
        parts.map((p, i) => element('input', { name: `in${i + 1}`, type: 'float', nodename: p })),
      ),
    )
    return { ...input, attributes: { ...rest, nodename: name } }
  }

  const upgraded = children.map((e): Element => {
    if (e.tag === 'nodegraph') return { ...e, children: upgradeContainer(e.children) }
    let tag = e.tag
    let inputs = e.children.map(c => (c.tag === 'input' ? upgradeInput(c) : c))
    if (tag === 'normalmap')
      inputs = inputs.filter(i => !(nameOf(i) === 'space' && i.attributes.value === 'tangent'))
    if (tag === 'swizzle') {
      const channels = inputs.find(i => nameOf(i) === 'channels')?.attributes.value ?? ''
      if (channels.length === 1 && COMPONENTS[e.attributes.type ?? ''] === 1) {
        tag = 'extract'
        inputs = [
          ...inputs.filter(i => nameOf(i) !== 'channels'),
          element('input', { name: 'index', type: 'integer', value: String(PLACES[channels] ?? 0) }),
        ]
      }
    }
    return { ...e, tag, children: inputs }
  })
  return [...upgraded, ...added]
}
