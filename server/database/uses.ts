import type { Knex } from 'knex'
import { specimensIn } from '../../core/network/specimens-in'
import type { SpecimenUses } from '../../shared/api'

/** Which materials of which projects, as they were saved last, use each specimen of the library. */
export async function specimenUses(db: Knex): Promise<SpecimenUses> {
  const rows = await db('projects')
    .whereNull('projects.deleted')
    .join('version_materials', { 'version_materials.project': 'projects.id', 'version_materials.number': 'head' })
    .join('materials', 'materials.hash', 'version_materials.material')
    .whereRaw("materials.document::text ~ 'wl_(metal|glass)'")
    .orderBy(['projects.name', 'key'])
    .select('projects.id', 'projects.name', 'key', 'materials.document')
  const uses = new Map<string, SpecimenUses[string]>()
  for (const { id, name, key, document } of rows)
    for (const specimen of specimensIn(document)) {
      const by = uses.get(specimen) ?? []
      by.push({ project: id, name, material: key })
      uses.set(specimen, by)
    }
  return Object.fromEntries(uses)
}
