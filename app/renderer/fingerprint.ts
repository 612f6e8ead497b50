import { feeders } from '../../core/network/edit'
import { childNamed, type Element } from '../../core/network/document'

/** What a node's output depends on, as text: itself and everything above it, but not where its card stands. */
export function fingerprint(d: Element, name: string, seen = new Set<string>()): string {
  if (seen.has(name)) return ''
  seen.add(name)
  const e = childNamed(d, name)
  return e ? JSON.stringify([e.tag, e.attributes.wl_off, e.children]) + feeders(e).map(f => fingerprint(d, f, seen)).join('') : ''
}
