import { feeders, joinPath, splitPath } from '../../core/network/edit'
import { findElement, type Element } from '../../core/network/document'
import { nodeAt } from '../../core/network/ends'

/** Texts that were met, as numbers; begun anew when there are very many. */
const numbers = new Map<string, number>()
const MANY = 100_000
let next = 1
function numberOf(text: string): number {
  const known = numbers.get(text)
  if (known !== undefined) return known
  if (numbers.size > MANY) numbers.clear()
  numbers.set(text, next)
  return next++
}

/** What nodes themselves are, and what is known of each document by path. Elements never change. */
const own = new WeakMap<Element, number>()
const known = new WeakMap<Element, Map<string, number>>()

function ownNumber(e: Element): number {
  let number = own.get(e)
  if (number === undefined)
    own.set(e, (number = numberOf(JSON.stringify([e.tag, e.attributes.wl_off, e.children]))))
  return number
}

/** Paths of what feeds a node; what a group's inputs bring is part of each of its nodes. */
function above(d: Element, path: string, e: Element): string[] {
  const [container] = splitPath(path)
  const group = container ? findElement(d, container) : undefined
  return [...feeders(e).map(f => joinPath(container, f)), ...(group ? feeders(group) : [])]
}

/**
 * What a node's or a group's output depends on, as a number: itself and everything above it, but not where its card
 * stands. Each node is looked at once a document, what feeds it first and without recursion: chains may be long. A
 * loop of wires, which is a fault said elsewhere, adds nothing.
 */
export function fingerprint(d: Element, path: string): number {
  let of = known.get(d)
  if (!of) known.set(d, (of = new Map()))
  const open = [path]
  const begun = new Set<string>()
  while (open.length > 0) {
    const at = open.at(-1)!
    const e = of.has(at) ? undefined : (nodeAt(d, at) ?? findElement(d, at))
    const feeding = e ? above(d, at, e) : []
    const first = begun.has(at) ? [] : feeding.filter(f => !of.has(f) && !begun.has(f))
    begun.add(at)
    if (first.length > 0) {
      open.push(...first)
      continue
    }
    open.pop()
    if (!of.has(at)) of.set(at, e ? numberOf([ownNumber(e), ...feeding.map(f => of.get(f) ?? 0)].join()) : 0)
  }
  return of.get(path)!
}
