import { createFieldTable, recordsOf, type FieldTable } from '../fields/table'
import type { Program } from '../network/compile'
import type { Geometry } from '../scene/geometry'
import type { Allocate } from '../trace/hierarchy'

/** Corners that a scene's table holds, 48 MiB; it is not touched, and so not there, before something asks for them. */
const RECORDS = 2 ** 20
/** Share of a table that may be full before another world of the same geometry gets a new one. */
const FULL = 0.75

const tables = new WeakMap<Geometry, FieldTable>()

/** What threads know of the fields of a geometry: one table as long as the geometry stays; null where none is asked. */
export function fieldsFor(
  geometry: Geometry,
  programs: readonly Program[],
  allocate?: Allocate,
): FieldTable | null {
  if (!programs.some(p => p.fields.length > 0)) return null
  const before = tables.get(geometry)
  if (before && before.kept[0]! < FULL * recordsOf(before)) return before
  const table = createFieldTable(RECORDS, allocate)
  tables.set(geometry, table)
  return table
}
