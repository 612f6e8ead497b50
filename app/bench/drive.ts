import { findElement, inputOf, type Element } from '../../core/network/document'
import { definitionOf } from '../../core/network/edit'
import { isPlainSource } from '../../core/network/ends'
import { followDriver, isGroup } from '../../core/network/groups'
import { wireByLevels } from '../../core/network/levels-between'
import { wire } from '../../core/network/wire'
import { unitScale } from '../../core/nodes/types'
import { shownAs } from '../words/shown-as'
import { suitedSpan } from '../words/suited'

/** Whether what an output gives are plain numbers, as of a picture or a pattern. */
function isPlain(document: Element, from: string, output: string | undefined): boolean {
  const e = findElement(document, from)
  if (!e || !isGroup(e)) return isPlainSource(document, from)
  const inner = followDriver(document, document, {
    nodegraph: from,
    ...(output !== undefined ? { output } : {}),
  }).path
  return inner === undefined || isPlainSource(document, inner)
}

/**
 * Wires two ends. A picture or a pattern on a length comes with levels of their own, in the length's unit and about
 * what it is now: as 0..1 it would be metres.
 * @param extent longest edge of the part that is at hand, metres
 * @throws EditError where the ends do not fit
 */
export function drive(
  document: Element,
  from: string,
  to: string,
  input: string,
  output?: string,
  extent?: number,
): Element {
  const target = findElement(document, to)
  const definition = target && definitionOf(target)?.inputs.find(i => i.name === input)
  const shown = definition?.type === 'float' ? shownAs(document, to, definition) : undefined
  if (shown?.quantity !== 'length' || !isPlain(document, from, output))
    return wire(document, from, to, input, output)
  const stated = inputOf(target!, input)?.attributes
  const metres = (text: string | undefined, unit?: string) =>
    Number(text ?? 0) * shown.own * (unitScale(unit) ?? 1)
  const now = stated?.value !== undefined ? metres(stated.value, stated.unit) : metres(definition!.default)
  const { low, high } = suitedSpan(input, now, (shown.low + shown.high) / 2, extent)
  const span = { low: low / shown.own, high: high / shown.own }
  return wireByLevels(document, from, to, input, span, output).document
}
