import { TILE, tileCount, tilesAcross, type Film } from '../../core/render/film'

/**
 * Order of a coarse picture's tiles that begins with those where `parts` were last seen; how many those are, and a mark
 * for each part.
 */
export function tilesOf(
  level: Film['levels'][number],
  parts: Set<number>,
  partCount: number,
): { order: Int32Array; first: number; parts: Uint8Array } {
  const across = tilesAcross(level.width)
  const count = tileCount(level.width, level.height)
  const seen = new Uint8Array(count)
  for (let i = 0; i < level.part.length; i++)
    if (parts.has(level.part[i]!))
      seen[Math.floor(Math.floor(i / level.width) / TILE) * across + Math.floor((i % level.width) / TILE)] = 1
  const tiles = Array.from({ length: count }, (_, i) => i)
  const near = tiles.filter(i => seen[i])
  return {
    order: Int32Array.from([...near, ...tiles.filter(i => !seen[i])]),
    first: near.length,
    parts: Uint8Array.from({ length: partCount }, (_, i) => (parts.has(i) ? 1 : 0)),
  }
}
