/**
 * Texture coordinates for parts that have none that can be painted on: charts by xatlas (the library `watlas`), of all
 * parts in one square, so that one picture holds the model and a centimetre is as long on each part.
 */
import { Atlas, Initialize } from 'watlas'
import type { Model, Part } from './model'
import { pickVertices } from './vertices'

/** How a model was unwrapped. */
export interface Unwrapped {
  model: Model
  charts: number
  /** Share of the square that charts cover. */
  covered: number
}

/** Texels of a picture of 1,024 between charts: what look-ups of the next two levels reach. */
const PADDING = 4

/**
 * A model whose parts' first coordinates are made anew: none lies on another, all within 0 to 1. Vertices are doubled
 * where charts part. Triangles without area get (0, 0); copies share what they are copies of.
 */
export async function unwrapModel({ parts }: Model): Promise<Unwrapped> {
  await Initialize()
  const atlas = new Atlas()
  try {
    const bodies = parts.flatMap((p, i) => (p.index.length ? [i] : []))
    for (const i of bodies) addPart(atlas, parts[i]!)
    atlas.generate({}, { padding: PADDING, resolution: 0, bilinear: true })
    const side = Math.max(1, atlas.width, atlas.height)
    const done = [...parts]
    bodies.forEach((i, m) => {
      done[i] = withCharts(parts[i]!, atlas.getMesh(m), side)
    })
    const utilization = new Float32Array(Math.max(1, atlas.atlasCount))
    atlas.getUtilization(utilization)
    const covered = (utilization[0]! * atlas.width * atlas.height) / side ** 2
    return { model: { parts: done }, charts: atlas.chartCount, covered }
  } finally {
    atlas.delete()
  }
}

function addPart(atlas: Atlas, { position, normal, index }: Part): void {
  atlas.addMesh({
    vertexPositionData: position,
    vertexCount: position.length / 3,
    vertexPositionStride: 12,
    vertexNormalData: normal,
    vertexNormalStride: 12,
    indexData: index,
    indexCount: index.length,
  })
}

/** A part with the vertices and coordinates of a mesh of the atlas. @param side texels of the square */
function withCharts(part: Part, mesh: ReturnType<Atlas['getMesh']>, side: number): Part {
  const source = new Uint32Array(mesh.vertexCount)
  const uv = new Float32Array(mesh.vertexCount * 2)
  for (let v = 0; v < source.length; v++) {
    const { xref, uv: at } = mesh.getVertex(v)
    source[v] = xref
    uv[v * 2] = at[0] / side
    uv[v * 2 + 1] = at[1] / side
  }
  const index = new Uint32Array(mesh.indexCount)
  mesh.getIndexArray(index)
  const { polygons: _, tangent: __, ...rest } = part
  return { ...pickVertices(rest, source), uv, index }
}
