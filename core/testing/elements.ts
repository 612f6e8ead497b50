/** Elements of a document as text. */

/** An input: a value where it is one, else the node it is wired to. */
export const input = (name: string, type: string, from: string): string =>
  `<input name="${name}" type="${type}" ${/^[\d., -]+$/.test(from) ? 'value' : 'nodename'}="${from}"/>`

export const node = (tag: string, name: string, type: string, ...inputs: string[]): string =>
  `<${tag} name="${name}" type="${type}">${inputs.join('')}</${tag}>`
