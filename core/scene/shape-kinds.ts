/**
 * Shapes of a rig's lights, a line each: the file of that name in `core/light/shapes` holds the rest, and
 * `scripts/write-dispatch.mjs` writes the switches from this list.
 */
export const SHAPE = {
  rectangle: 0,
  disc: 1,
  ball: 2,
  sun: 3,
} as const

/** Names of shapes that were registered while the program runs, and the number of the first. */
const added: string[] = []
export const FIRST_ADDED_SHAPE = 1000

/** Names a shape from outside. @returns its number */
export const nameShape = (name: string): number => FIRST_ADDED_SHAPE + added.push(name) - 1

/** Number of a shape by its name; undefined for an unknown one. */
export function shapeNumber(name: string): number | undefined {
  if (Object.hasOwn(SHAPE, name)) return SHAPE[name as keyof typeof SHAPE]
  const i = added.indexOf(name)
  return i < 0 ? undefined : FIRST_ADDED_SHAPE + i
}

/** Names of all shapes. */
export const shapeNames = (): string[] => [...Object.keys(SHAPE), ...added]
