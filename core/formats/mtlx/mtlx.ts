import { XMLParser, XMLValidator } from 'fast-xml-parser'
import { element, type Element } from '../../network/document'
import { documentSchema, DOCUMENT_LIMITS } from '../../network/document-schema'
import { FormatError } from '../error'
import { upgradeDocument } from './upgrade'

const ATTRIBUTE = '@'
/** Largest document read, bytes of text. */
const LARGEST = 16 * 1024 * 1024

/**
 * Reads a MaterialX document (1.38 or 1.39). Unknown elements and attributes are kept in their order; comments
 * too.
 * @throws FormatError with line and column where the text is not well-formed, or is something else
 */
export function readMtlx(text: string): Element {
  if (text.length > LARGEST) throw new FormatError('MaterialX', 'the document is larger than 16 MiB')
  if (/<!(DOCTYPE|ENTITY)/i.test(text))
    throw new FormatError('MaterialX', 'document type declarations are not read')
  const valid = XMLValidator.validate(text)
  if (valid !== true)
    throw new FormatError('MaterialX', valid.err.msg, `line ${valid.err.line}, column ${valid.err.col}`)
  const parser = new XMLParser({
    preserveOrder: true,
    ignoreAttributes: false,
    attributeNamePrefix: '',
    commentPropName: '#comment',
    parseTagValue: false,
    parseAttributeValue: false,
    trimValues: true,
    processEntities: true,
    // references to characters too (XML 1.0, 4.1)
    htmlEntities: true,
    maxNestedTags: DOCUMENT_LIMITS.depth + 2,
  })
  let nodes: Record<string, unknown>[]
  try {
    nodes = parser.parse(text)
  } catch (e) {
    throw new FormatError('MaterialX', e instanceof Error ? e.message : 'the document cannot be read')
  }
  const root = nodes.find(n => 'materialx' in n)
  if (!root) throw new FormatError('MaterialX', 'there is no materialx element')
  let count = 0
  const convert = (n: Record<string, unknown>): Element | undefined => {
    const tag = Object.keys(n).find(k => k !== ':@')!
    if (tag === '#text' || tag.startsWith('?')) return undefined
    if (++count > DOCUMENT_LIMITS.elements)
      throw new FormatError('MaterialX', `more than ${DOCUMENT_LIMITS.elements} elements`)
    if (tag === '#comment')
      return element('#comment', { text: String(((n[tag] as Record<string, unknown>[])[0] ?? {})['#text'] ?? '') })
    return element(
      tag,
      { ...(n[':' + ATTRIBUTE] as Record<string, string>) },
      (n[tag] as Record<string, unknown>[]).map(convert).filter(e => e !== undefined),
    )
  }
  const checked = documentSchema.safeParse(convert(root))
  if (!checked.success)
    throw new FormatError('MaterialX', checked.error.issues[0]!.message, checked.error.issues[0]!.path.join('.'))
  const version = checked.data.attributes.version ?? ''
  if (!/^1\.3[6-9]/.test(version))
    throw new FormatError('MaterialX', `version ${version || 'none'} is not read; 1.38 and 1.39 are`)
  return upgradeDocument(checked.data)
}

const escape = (s: string) =>
  s
    .replace(/&/g, '&amp;')
    .replace(/</g, '&lt;')
    .replace(/>/g, '&gt;')
    .replace(/"/g, '&quot;')
    .replace(/\n/g, '&#10;')
    .replace(/\t/g, '&#9;')

/** Writes a document as MaterialX text. */
export function writeMtlx(document: Element): string {
  const lines = ['<?xml version="1.0"?>']
  const write = (e: Element, indent: string) => {
    if (e.tag === '#comment') {
      lines.push(`${indent}<!--${(e.attributes.text ?? '').replace(/--/g, '- -')}-->`)
      return
    }
    const attributes = Object.entries(e.attributes)
      .map(([k, v]) => ` ${k}="${escape(v)}"`)
      .join('')
    if (!e.children.length) {
      lines.push(`${indent}<${e.tag}${attributes} />`)
      return
    }
    lines.push(`${indent}<${e.tag}${attributes}>`)
    for (const c of e.children) write(c, indent + '  ')
    lines.push(`${indent}</${e.tag}>`)
  }
  write(document, '')
  return lines.join('\n') + '\n'
}
