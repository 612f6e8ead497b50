/**
 * What may come in from outside as a material document. Apart from the tree itself, so that pages which only edit
 * need no schemas.
 */
import { z } from 'zod'
import type { Element } from './document'

/** Limits that keep a hostile document from exhausting memory and time: of elements, those of a whole document. */
export const DOCUMENT_LIMITS = { depth: 32, elements: 100_000, attribute: 20_000 }

const NAME = /^[A-Za-z_#:][A-Za-z0-9_.:-]{0,127}$/

/** Why a tree is no document, and where. */
class Fault extends Error {
  constructor(
    message: string,
    readonly path: (string | number)[],
  ) {
    super(message)
  }
}

const isRecord = (v: unknown): v is Record<string, unknown> =>
  typeof v === 'object' && v !== null && !Array.isArray(v)

/**
 * Reads a tree of elements by a walk of its own: schemas that refer to themselves took 20 µs an element, 13 s for the
 * largest bodies, in which the server answered nobody; this takes 1 µs.
 * @throws Fault
 */
function readTree(value: unknown): Element {
  let elements = 0
  const read = (v: unknown, depth: number, path: (string | number)[]): Element => {
    if (!isRecord(v)) throw new Fault('not an element', path)
    if (depth > DOCUMENT_LIMITS.depth) throw new Fault(`nested more than ${DOCUMENT_LIMITS.depth} deep`, path)
    if (++elements > DOCUMENT_LIMITS.elements)
      throw new Fault(`more than ${DOCUMENT_LIMITS.elements} elements`, [])
    const { tag, attributes, children } = v
    if (typeof tag !== 'string' || !NAME.test(tag)) throw new Fault('not a name of an element', [...path, 'tag'])
    if (!isRecord(attributes)) throw new Fault('not attributes', [...path, 'attributes'])
    if (!Array.isArray(children)) throw new Fault('not a list of elements', [...path, 'children'])
    const own: Record<string, string> = {}
    for (const [name, text] of Object.entries(attributes)) {
      if (!NAME.test(name) || name === '__proto__')
        throw new Fault('not a name of an attribute', [...path, 'attributes', name.slice(0, 60)])
      if (typeof text !== 'string') throw new Fault('not text', [...path, 'attributes', name])
      if (text.length > DOCUMENT_LIMITS.attribute)
        throw new Fault(`more than ${DOCUMENT_LIMITS.attribute} characters`, [...path, 'attributes', name])
      own[name] = text
    }
    return { tag, attributes: own, children: children.map((c, i) => read(c, depth + 1, [...path, 'children', i])) }
  }
  return read(value, 1, [])
}

/** A tree of elements. */
export const elementSchema: z.ZodType<Element> = z.unknown().transform((value, context) => {
  try {
    return readTree(value)
  } catch (e) {
    if (!(e instanceof Fault)) throw e
    context.addIssue({ code: 'custom', message: e.message, path: e.path })
    return z.NEVER
  }
})

export const documentSchema = elementSchema.refine(
  e => e.tag === 'materialx',
  'the outermost element must be materialx',
)
