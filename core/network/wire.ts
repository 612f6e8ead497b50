import { definitionsOf, outputTypeOf } from '../nodes/definitions'
import { COMPONENTS, wireBetween } from '../nodes/types'
import { childNamed, element, findElement, isDriven, type Element } from './document'
import { changeElement, putInput, splitPath } from './edit'
import { readersOf } from './ends'
import { connectAcross, givenType, isGroup, takenType } from './groups'
import { takeDefinition } from './retype'

/** Whether a wire loses numbers on its way into an input: it takes fewer than are given. */
const loses = (given: string, taken: string): boolean => (COMPONENTS[given] ?? 1) > (COMPONENTS[taken] ?? 1)

/** Whether anything reads a node: another node, or an output of the group that it is in. */
function isRead(document: Element, path: string): boolean {
  const [group, name] = splitPath(path)
  const scope = group ? childNamed(document, group) : document
  const handedOut = scope?.children.some(c => c.tag === 'output' && c.attributes.nodename === name)
  return handedOut === true || readersOf(document, path).length > 0
}

/**
 * Gives a node the signature whose input takes all that a wire gives, where there is one: of the same output, or of
 * any while nothing reads the node. What is wired already keeps its type.
 */
function fitSignature(document: Element, path: string, input: string, given: string): Element {
  const node = findElement(document, path)
  const taken = node && takenType(node, input)
  if (!node || isGroup(node) || taken === undefined || !loses(given, taken)) return document
  const wired = node.children.filter(c => isDriven(c) && c.attributes.name !== input)
  const read = isRead(document, path)
  const fitting = definitionsOf(node.tag).filter(
    d =>
      d.inputs.some(i => i.name === input && i.type === given) &&
      (!read || outputTypeOf(d) === node.attributes.type) &&
      wired.every(w => d.inputs.some(i => i.name === w.attributes.name && i.type === w.attributes.type)),
  )
  const best = fitting.find(d => outputTypeOf(d) === node.attributes.type) ?? fitting.at(0)
  if (!best) return document
  // the signature is known by the types of what is stated
  return changeElement(takeDefinition(document, path, best), path, e =>
    putInput(e, element('input', { name: input, type: given })),
  )
}

/**
 * Wires two ends, also across the edges of groups. The node at the end takes the signature that loses nothing; where
 * there is none, what is lost is lost in a node between that can be seen.
 * @throws EditError where the ends do not fit
 */
export function wire(document: Element, from: string, to: string, input: string, output?: string): Element {
  const source = findElement(document, from)
  const given = source && givenType(source, output)
  const fitted = given !== undefined ? fitSignature(document, to, input, given) : document
  return connectAcross(fitted, from, to, input, output)
}

/** How many numbers a wire gives and how many of them an input takes, though the best signature was taken. */
export interface Loss {
  given: number
  taken: number
}

/** What a wire loses on its way into an input; undefined where it loses nothing, or does not fit. */
export function lossIn(
  document: Element,
  from: string,
  to: string,
  input: string,
  output?: string,
): Loss | undefined {
  const source = findElement(document, from)
  const given = source && givenType(source, output)
  if (given === undefined) return undefined
  const target = findElement(fitSignature(document, to, input, given), to)
  const taken = target && takenType(target, input)
  if (taken === undefined || !loses(given, taken) || wireBetween(given, taken) === 'impossible') return undefined
  return { given: COMPONENTS[given] ?? 1, taken: COMPONENTS[taken] ?? 1 }
}

/** What a wire loses, in words; undefined where it loses nothing. */
export function lostBy(
  document: Element,
  from: string,
  to: string,
  input: string,
  output?: string,
): string | undefined {
  const loss = lossIn(document, from, to, input, output)
  if (!loss) return undefined
  const first = loss.taken === 1 ? 'one: the first' : `${loss.taken}: the first ${loss.taken}`
  return `${from} gives ${loss.given} numbers, ${input} takes ${first}`
}
