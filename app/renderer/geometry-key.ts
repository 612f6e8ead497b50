import { shapingKey, type Shaping } from '../../core/shape/shaping'

/**
 * All that a geometry depends on: its model, the parts that are left out, how the others are shaped.
 * @param hash of the model's asset; empty for the file that was read last
 */
export const geometryKeyOf = (
  hidden: readonly string[],
  shapings: ReadonlyMap<string, Shaping>,
  hash: string,
): string => JSON.stringify([hash, hidden, [...shapings].map(([part, s]) => [part, shapingKey(s)])])
