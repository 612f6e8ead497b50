/**
 * Values of a material that parts may have of their own: inputs marked with `wl_published`, and what a part says
 * instead.
 */
import { findElement, inputOf, type Element } from '../network/document'
import { definitionOf, setAttribute, setValue } from '../network/edit'
import { allNodes } from '../network/groups'

/** A published input. */
export interface Published {
  /** What a part's value is filed under: path of the node, `#`, name of the input. */ key: string
  node: string
  input: string
  label: string
  type: string
  value: string
  unit?: string
  colorspace?: string
}

const MARK = 'wl_published'

/**
 * The published inputs of a document, in its order. Those that a wire drives are left out: there is no value to
 * replace.
 */
export function publishedOf(document: Element): Published[] {
  return allNodes(document).flatMap(({ path, node }) =>
    node.children.flatMap(({ tag, attributes: a }): Published[] =>
      tag === 'input' && a[MARK] !== undefined && a.value !== undefined
        ? [
            {
              key: `${path}#${a.name}`,
              node: path,
              input: a.name!,
              label: a[MARK] || a.name!,
              type: a.type ?? 'float',
              value: a.value,
              ...(a.unit ? { unit: a.unit } : {}),
              ...(a.colorspace ? { colorspace: a.colorspace } : {}),
            },
          ]
        : [],
    ),
  )
}

/**
 * Publishes an input under a label, or keeps it to the material again. An input at its default is written out so
 * that it can carry the mark.
 */
export function publish(document: Element, node: string, input: string, label: string | undefined): Element {
  const e = findElement(document, node)
  const definition = e && definitionOf(e)?.inputs.find(i => i.name === input)
  const stated =
    e && inputOf(e, input)
      ? document
      : setValue(document, node, input, definition?.type ?? 'float', definition?.default ?? '0')
  return setAttribute(stated, `${node}/${input}`, MARK, label)
}

export const isPublished = (node: Element, input: string): boolean =>
  inputOf(node, input)?.attributes[MARK] !== undefined

const made = new WeakMap<Element, Map<string, Element>>()

/**
 * The document as a part wears it. Values of inputs that are gone or not published any more have no effect. Made
 * once for each document and set of values.
 * @param values texts by {@link Published.key}
 */
export function withValues(document: Element, values: Readonly<Record<string, string>> | undefined): Element {
  if (!values || !Object.keys(values).length) return document
  let known = made.get(document)
  if (!known) made.set(document, (known = new Map()))
  const id = JSON.stringify(values)
  const there = known.get(id)
  if (there) return there
  const d = publishedOf(document).reduce(
    (x, p) => (values[p.key] === undefined ? x : setAttribute(x, `${p.node}/${p.input}`, 'value', values[p.key])),
    document,
  )
  known.set(id, d)
  return d
}
