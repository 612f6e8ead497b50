import { MAP_MEMORY } from '../../core/maps/plan'
import { createLights } from '../../core/light/create-lights'
import { bytesOf } from '../../core/maps/map'
import { tilesReadOf } from '../../core/maps/paging'
import { quad } from '../../core/mesh/quad'
import { createGeometry } from '../../core/scene/geometry'
import { rigs } from '../../core/scene/rigs'
import { compileMaterial, createMapShelf, mapsFor } from '../../core/world/compile-material'
import type { World } from '../../core/world/world'
import type { Benchmark } from '../command'
import { renderOnThreads } from '../pool'
import { createTileFile } from '../tile-file'
import { plain } from './scene'

const shared = (bytes: number): ArrayBufferLike => new SharedArrayBuffer(bytes)
const ACROSS = 10
const SIDE = 1024
const VIEW = {
  name: 'c',
  position: [0, 9, 9] as [number, number, number],
  target: [0, 0, 0] as [number, number, number],
  fov: 50,
}

/** A coloured picture without an alpha, as a file brings it: fields and waves, each its own. */
function picture(i: number) {
  const data = new Uint8Array(SIDE * SIDE * 4)
  for (let y = 0; y < SIDE; y++)
    for (let x = 0; x < SIDE; x++) {
      const o = (y * SIDE + x) * 4
      data[o] = ((x >> 5) + (y >> 5)) % 2 ? 200 : 40
      data[o + 1] = 128 + 100 * Math.sin((x + i * 7) / 23)
      data[o + 2] = 128 + 100 * Math.cos((y + i * 3) / 31)
      data[o + 3] = 255
    }
  return { width: SIDE, height: SIDE, data }
}

/**
 * `benchmark maps`: memory of the whole process, MB, that renders with as many maps of 1024² pixels.
 * @param room memory that the maps may take, MiB: tiles of those that do not fit are read from a file
 */
async function benchmarkMaps(count: number, threads: number, room: number): Promise<unknown> {
  const before = process.memoryUsage().rss
  const geometry = createGeometry(
    {
      parts: Array.from({ length: count }, (_, i) => {
        const x = (i % ACROSS) - ACROSS / 2
        const z = Math.floor(i / ACROSS) - ACROSS / 2
        return quad(`Tile ${i}`, [x, 0, z + 1, x + 1, 0, z + 1, x + 1, 0, z, x, 0, z])
      }),
    },
    undefined,
    shared,
  )
  const store = createTileFile()
  const shelf = createMapShelf(shared, { bytes: room * 2 ** 20, store })
  const programs = Array.from({ length: count }, () =>
    compileMaterial(
      plain(`<image name="i" type="color3">
          <input name="file" type="filename" value="map.png" colorspace="srgb_texture"/></image>
        <open_pbr_surface name="s" type="surfaceshader">
          <input name="base_color" type="color3" nodename="i"/></open_pbr_surface>`),
      'm',
    ),
  )
  const world: World = {
    geometry,
    lights: createLights(rigs(10)[0]!, null, shared),
    programs,
    maps: programs.map((p, i) => mapsFor(p, () => picture(i), shelf, String(i))),
    materialOf: Int32Array.from({ length: count }, (_, i) => i),
    priorityOf: new Int32Array(count),
    maxOpaque: 4,
    maxSpecular: 4,
  }
  const maps = world.maps.flat().reduce((sum, m) => sum + (m ? bytesOf(m) : 0), 0)
  let most = 0
  const watch = setInterval(() => {
    most = Math.max(most, process.memoryUsage().rss)
  }, 20)
  const r = await renderOnThreads(world, VIEW, {
    width: 640,
    height: 400,
    seed: 0,
    threads,
    aov: [],
    from: 0,
    to: 8,
  })
  clearInterval(watch)
  store.close()
  const tilesRead = world.maps.flat().reduce((sum, m) => sum + (m?.paging ? tilesReadOf(m.paging) : 0), 0)
  const megabytes = (bytes: number) => Math.round(bytes / 1e6)
  return {
    maps: count,
    threads,
    megabytesOfMaps: megabytes(maps),
    megabytesOfProcess: megabytes(Math.max(most, process.memoryUsage().rss)),
    megabytesBefore: megabytes(before),
    tilesRead,
    pathsPerSecond: Math.round(r.paths / r.seconds),
    accept: { megabytesOfProcess: 900 },
  }
}

export const benchmark: Benchmark = {
  options: '[--count N] [--threads N] [--map-memory MIB]',
  run: o =>
    benchmarkMaps(
      o.number('count', 100, 1, 400),
      o.number('threads', 4, 1, 64),
      o.number('map-memory', MAP_MEMORY, 16, 2 ** 20),
    ),
}
