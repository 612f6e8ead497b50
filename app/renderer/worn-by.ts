import type { World } from '../../core/world/world'

/** Parts that wear one of some programs. @param wanted by a program's number */
export function partsThatWear(world: World, wanted: (program: number) => boolean): number[] {
  const parts: number[] = []
  world.materialOf.forEach((m, p) => {
    if (wanted(m)) parts.push(p)
  })
  return parts
}
