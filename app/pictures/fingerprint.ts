import { feeders, joinPath, splitPath } from '../../core/network/edit'
import { findElement, type Element } from '../../core/network/document'
import { elementAt } from '../../core/network/ends'
import { inPostOrder } from '../../core/network/post-order'

/** Texts that were met, as numbers; begun anew when there are very many. */
const texts = new Map<string, number>()
const MANY = 100_000
let next = 1
function numberOf(text: string): number {
  const known = texts.get(text)
  if (known !== undefined) return known
  if (texts.size > MANY) texts.clear()
  texts.set(text, next)
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
 * stands. Each node is looked at once a document, what feeds it first. A loop of wires, which is a fault said
 * elsewhere, adds nothing.
 */
export function fingerprint(d: Element, path: string): number {
  let of = known.get(d)
  if (!of) known.set(d, (of = new Map()))
  const numbers = of
  const feeding = (at: string): string[] => {
    const e = elementAt(d, at)
    return e ? above(d, at, e) : []
  }
  inPostOrder(
    path,
    feeding,
    at => numbers.has(at),
    at => {
      const e = elementAt(d, at)
      const fed = feeding(at).map(f => numbers.get(f) ?? 0)
      numbers.set(at, e ? numberOf([ownNumber(e), ...fed].join()) : 0)
    },
  )
  return numbers.get(path)!
}
