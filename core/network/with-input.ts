import type { InputDefinition } from '../nodes/definition'
import { findElement, isDriven, nameOf, type Element } from './document'
import { definitionOf } from './edit'

/** Of some nodes those that have an input of the same name and type, which no wire drives. */
export const withInput = (document: Element, nodes: readonly string[], input: InputDefinition): string[] =>
  nodes.filter(path => {
    const node = findElement(document, path)
    const driven = node?.children.some(c => isDriven(c) && nameOf(c) === input.name)
    const has = node && definitionOf(node)?.inputs.some(i => i.name === input.name && i.type === input.type)
    return has === true && !driven
  })
