import { nameOf } from '../network/document'
import type { Finding } from './finding'
import type { Rule } from './rule'

const NAME = 'missing file'

/** Pictures that a node needs and that are not chosen, or not there. */
export const missingFile: Rule = {
  name: NAME,
  run: ({ nodes, hasFile }) =>
    nodes.flatMap(({ path, node }) =>
      node.children
        .filter(c => c.tag === 'input' && c.attributes.type === 'filename')
        .flatMap((c): Finding[] => {
          const file = c.attributes.value ?? ''
          const shown = c.attributes.wl_name ?? file
          if (!file)
            return [
              {
                rule: NAME,
                severity: 'warning',
                where: path,
                message: `No picture is chosen for ${nameOf(c)} of ${path}.`,
                fix: 'Drop a picture on it',
              },
            ]
          return hasFile && !hasFile(file)
            ? [
                {
                  rule: NAME,
                  severity: 'error',
                  where: path,
                  message: `${shown} is not there; ${path} gives its default instead.`,
                  fix: 'Bring the file, or choose another',
                },
              ]
            : []
        }),
    ),
}
