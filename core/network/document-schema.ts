/**
 * What may come in from outside as a material document. Apart from the tree itself, so that pages which only edit
 * need no schemas.
 */
import { z } from 'zod'
import type { Element } from './document'

/** Limits that keep a hostile document from exhausting memory. */
export const DOCUMENT_LIMITS = { depth: 32, elements: 100_000, attribute: 20_000 }

const NAME = /^[A-Za-z_#:][A-Za-z0-9_.:-]{0,127}$/

export const elementSchema: z.ZodType<Element> = z.lazy(() =>
  z.object({
    tag: z.string().regex(NAME, 'not a name of an element'),
    attributes: z.record(
      z.string().regex(NAME, 'not a name of an attribute'),
      z.string().max(DOCUMENT_LIMITS.attribute),
    ),
    children: z.array(elementSchema).max(DOCUMENT_LIMITS.elements),
  }),
)

export const documentSchema = elementSchema
  .refine(e => e.tag === 'materialx', 'the outermost element must be materialx')
  .refine(e => depthOf(e) <= DOCUMENT_LIMITS.depth, `nested more than ${DOCUMENT_LIMITS.depth} deep`)

function depthOf(e: Element): number {
  return 1 + e.children.reduce((most, c) => Math.max(most, depthOf(c)), 0)
}
