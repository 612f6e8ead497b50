import { addElement, changeElement, freeName, setValue } from '../network/edit'
import { childNamed, element, inputOf, nameOf } from '../network/document'
import type { Finding } from './finding'
import { intervalOf } from './interval'
import type { Rule } from './rule'

const NAME = 'mix factor outside 0..1'
const said = (x: number) =>
  x === Infinity ? 'any height' : x === -Infinity ? 'any depth' : String(+x.toPrecision(3))

/**
 * A mix by more than all or less than nothing gives wild colours; on surfaces the factor is held, which hides a
 * mask that is not what it seems.
 */
export const mixFactor: Rule = {
  name: NAME,
  run: ({ document }) =>
    document.children
      .filter(e => e.tag === 'mix')
      .flatMap((e): Finding[] => {
        const [low, high] = intervalOf(document, e, 'mix')
        const driver = inputOf(e, 'mix')?.attributes.nodename
        if (low >= -1e-6 && high <= 1 + 1e-6) return []
        const from =
          driver === undefined
            ? 'is'
            : low === -Infinity && high === Infinity
              ? `comes from ${driver}, which has no bounds`
              : `comes from ${driver} and reaches`
        const reach =
          low === -Infinity && high === Infinity
            ? ''
            : driver === undefined
              ? ` ${said(low)}`
              : ` ${said(low)} to ${said(high)}`
        return [
          {
            rule: NAME,
            severity: low === -Infinity && high === Infinity ? 'info' : 'warning',
            where: nameOf(e),
            message: `The factor of ${nameOf(e)} ${from}${reach}; a share lies within 0 to 1.`,
            fix: driver === undefined ? 'Hold it within 0 to 1' : 'Put a clamp before it',
          },
        ]
      }),
  mend(document, finding) {
    const mix = childNamed(document, finding.where)
    const given = mix && inputOf(mix, 'mix')?.attributes
    if (!mix || !given) return undefined
    if (given.nodename === undefined)
      return setValue(
        document,
        finding.where,
        'mix',
        'float',
        String(Math.min(1, Math.max(0, Number(given.value)))),
      )
    const name = freeName(document, 'held')
    const type = given.type ?? 'float'
    const d = addElement(
      document,
      '',
      element(
        'clamp',
        {
          name,
          type,
          xpos: String(+(Number(mix.attributes.xpos ?? 0) - 0.5).toFixed(3)),
          ypos: String(+(Number(mix.attributes.ypos ?? 0) + 0.6).toFixed(3)),
        },
        [
          element('input', {
            name: 'in',
            type,
            nodename: given.nodename,
            ...(given.output ? { output: given.output } : {}),
          }),
        ],
      ),
    )
    return changeElement(d, finding.where, m => ({
      ...m,
      children: m.children.map(c =>
        c.tag === 'input' && nameOf(c) === 'mix' ? { ...c, attributes: { name: 'mix', type, nodename: name } } : c,
      ),
    }))
  },
}
