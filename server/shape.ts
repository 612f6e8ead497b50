/**
 * What no body may be, whatever it is for: looked at before its schema, by a walk that neither depth nor size stops.
 */

/** Deepest nesting, and most objects and lists, of a body: more than a scene with its documents can have. */
const DEEPEST = 100
const MOST = 1_000_000
/** A text that PostgreSQL cannot hold: with NUL, or with half a pair of surrogates. */
const UNKEPT = /\0|\p{Surrogate}/u

/** Whether the database can hold a text. */
export const canBeKept = (text: string): boolean => !UNKEPT.test(text)
/** A text as the database can hold it: what it cannot is left out. */
export const kept = (text: string): string => text.replace(new RegExp(UNKEPT, 'gu'), '')

/** What is wrong with the shape of a body, and where; undefined for none. */
export function shapeFault(body: unknown): string | undefined {
  const open: { value: unknown; depth: number; path: string }[] = [{ value: body, depth: 1, path: '' }]
  let count = 0
  for (let next = open.pop(); next; next = open.pop()) {
    const { value, depth, path } = next
    const at = path || 'body'
    if (typeof value === 'string' && !canBeKept(value)) return `${at}: holds a character that cannot be kept`
    if (typeof value === 'number' && !Number.isFinite(value)) return `${at}: is beyond all numbers`
    if (typeof value !== 'object' || value === null) continue
    if (depth > DEEPEST) return `${at.slice(0, 80)}…: nested more than ${DEEPEST} deep`
    if (++count > MOST) return `body: more than ${MOST} objects and lists`
    for (const [key, child] of Object.entries(value)) {
      if (!canBeKept(key)) return `${at}: a name holds a character that cannot be kept`
      open.push({ value: child, depth: depth + 1, path: path ? `${path}.${key}` : key })
    }
  }
  return undefined
}
