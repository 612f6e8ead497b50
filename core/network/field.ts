import { formatValue } from '../nodes/types'
import { element, findElement, type Element } from './document'
import { addFresh } from './edit'
import { connectAcross } from './groups'

/**
 * Gives a node of patterns in space a field of its own: the position on the part, divided by a size. A group with
 * the size as its input, in metres, so that it is one card and leaves as nodes of the standard.
 * @param path of a node that is in no group
 * @param size metres that a unit of the pattern takes
 * @returns the new document and the field's name
 */
export function addField(
  document: Element,
  path: string,
  size: number,
  input = 'position',
): { document: Element; name: string } {
  const at = findElement(document, path)?.attributes ?? {}
  const wire = (to: string, type: string, from: Record<string, string>) =>
    element('input', { name: to, type, ...from })
  const field = addFresh(
    document,
    '',
    'field',
    'nodegraph',
    { xpos: String(Number(at.xpos ?? 0) - 1), ypos: String(Number(at.ypos ?? 0)) },
    [
      element('input', {
        name: 'size',
        type: 'float',
        value: formatValue('float', [size]),
        unit: 'meter',
        unittype: 'distance',
      }),
      element('position', { name: 'position', type: 'vector3', xpos: '0', ypos: '0' }),
      element('divide', { name: 'by_size', type: 'vector3', xpos: '1', ypos: '0' }, [
        wire('in1', 'vector3', { nodename: 'position' }),
        wire('in2', 'float', { interfacename: 'size' }),
      ]),
      element('output', { name: 'out', type: 'vector3', nodename: 'by_size' }),
    ],
  )
  return { document: connectAcross(field.document, field.path, path, input, 'out'), name: field.path }
}
