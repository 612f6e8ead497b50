import { feeders, joinPath, splitPath } from '../../core/network/edit'
import { findElement, type Element } from '../../core/network/document'

/**
 * What a node's or a group's output depends on, as text: itself and everything above it, but not where its card
 * stands.
 */
export function fingerprint(d: Element, path: string, seen = new Set<string>()): string {
  if (seen.has(path)) return ''
  seen.add(path)
  const e = findElement(d, path)
  const [container] = splitPath(path)
  const group = container ? findElement(d, container) : undefined
  if (!e) return ''
  // what a group's inputs bring is part of each of its nodes
  const above = [...feeders(e).map(f => joinPath(container, f)), ...(group ? feeders(group) : [])]
  return (
    JSON.stringify([e.tag, e.attributes.wl_off, e.children]) + above.map(f => fingerprint(d, f, seen)).join('')
  )
}
