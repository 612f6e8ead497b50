import type { Element } from './document'

/** Replaces the value of every filename input. */
export function mapFiles(
  e: Element,
  change: (value: string, attributes: Record<string, string>) => Record<string, string>,
): Element {
  const attributes =
    e.tag === 'input' && e.attributes.type === 'filename' && e.attributes.value !== undefined
      ? change(e.attributes.value, e.attributes)
      : e.attributes
  return { ...e, attributes, children: e.children.map(c => mapFiles(c, change)) }
}
