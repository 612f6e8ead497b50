/** Values of a material that parts may have of their own: inputs marked with `wl_published`, and what a part says instead. */
import { findElement, inputOf, isNode, nameOf, type Element } from '../network/document'
import { changeElement, definitionOf } from '../network/edit'

/** A published input. */
export interface Published { /** What a part's value is filed under: path of the node, `#`, name of the input. */ key: string, node: string, input: string, label: string, type: string, value: string, unit?: string, colorspace?: string }

const MARK = 'wl_published'

/** The published inputs of a document, in its order. Those that a wire drives are left out: there is no value to replace. */
export function publishedOf(document: Element): Published[] {
  const out: Published[] = []
  const visit = (container: Element, prefix: string) => {
    for (const e of container.children) {
      if (e.tag === 'nodegraph' && e.attributes.nodedef === undefined) visit(e, nameOf(e) + '/')
      else if (isNode(e)) for (const i of e.children) {
        const a = i.attributes
        if (i.tag !== 'input' || a[MARK] === undefined || a.value === undefined) continue
        out.push({ key: `${prefix}${nameOf(e)}#${nameOf(i)}`, node: prefix + nameOf(e), input: nameOf(i), label: a[MARK] || nameOf(i), type: a.type ?? 'float', value: a.value, ...(a.unit ? { unit: a.unit } : {}), ...(a.colorspace ? { colorspace: a.colorspace } : {}) })
      }
    }
  }
  visit(document, '')
  return out
}

/** Publishes an input under a label, or keeps it to the material again. An input at its default is written out so that it can carry the mark. */
export function publish(document: Element, node: string, input: string, label: string | undefined): Element {
  return changeElement(document, node, (e) => {
    const stated = inputOf(e, input), definition = definitionOf(e)?.inputs.find(i => i.name === input)
    const made: Element = stated ?? { tag: 'input', attributes: { name: input, type: definition?.type ?? 'float', value: definition?.default ?? '0' }, children: [] }
    const { [MARK]: _, ...rest } = made.attributes, marked = { ...made, attributes: label === undefined ? rest : { ...rest, [MARK]: label } }
    return { ...e, children: stated ? e.children.map(c => c === stated ? marked : c) : [...e.children, marked] }
  })
}

export const isPublished = (node: Element, input: string): boolean => inputOf(node, input)?.attributes[MARK] !== undefined

const made = new WeakMap<Element, Map<string, Element>>()

/**
 * The document as a part wears it. Values of inputs that are gone or not published any more have no effect. Made once for each document and set of values.
 * @param values texts by {@link Published.key}
 */
export function withValues(document: Element, values: Readonly<Record<string, string>> | undefined): Element {
  if (!values || !Object.keys(values).length) return document
  let known = made.get(document)
  if (!known) made.set(document, known = new Map())
  const id = JSON.stringify(values), there = known.get(id)
  if (there) return there
  let d = document
  for (const p of publishedOf(document)) {
    const value = values[p.key]
    if (value === undefined || !findElement(d, p.node)) continue
    d = changeElement(d, p.node, e => ({ ...e, children: e.children.map(c => c.tag === 'input' && nameOf(c) === p.input ? { ...c, attributes: { ...c.attributes, value } } : c) }))
  }
  known.set(id, d)
  return d
}
