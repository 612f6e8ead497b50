import type { z } from 'zod'

/**
 * What this browser keeps under a name.
 * @param fallback where nothing is kept, or nothing that can be read
 */
export function readKept<T>(name: string, schema: z.ZodType<T>, fallback: T): T {
  try {
    const kept = schema.safeParse(JSON.parse(localStorage.getItem(name) ?? 'null'))
    return kept.success ? kept.data : fallback
  } catch {
    return fallback
  }
}
export const keep = (name: string, value: unknown): void => localStorage.setItem(name, JSON.stringify(value))
