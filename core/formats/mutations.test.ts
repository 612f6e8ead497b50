/**
 * Damaged files of each format: read, or refused with the format's name; never a crash, a hang, or a
 * picture or model of nonsense size.
 */
import { encode as encodeJpeg } from 'jpeg-js'
import { describe, expect, it } from 'vitest'
import { writeGlb } from './models/glb-write'
import { sphere } from '../mesh/sphere'
import { rigs } from '../scene/rigs'
import { readRig, writeRig } from './rig-file'
import { starters } from '../network/starters'
import { FormatError } from './error'
import { rgbChannels, writeExr } from './pictures/exr'
import { readGlb } from './models/glb'
import { LARGEST_PICTURE } from './pictures/picture'
import { writePng } from './pictures/png'
import { readPicture } from './pictures'
import { readMtlx, writeMtlx } from './mtlx/mtlx'
import { readModelFiles } from './models'
import { materialsOfMtl } from './models/mtl'
import { readObj } from './models/obj'
import { readPly } from './models/ply'
import { writePly } from './models/ply-write'

/** Damaged files of each kind; many more where the long tests run. */
const SEEDS = process.env.WAVELUME_LONG ? 3000 : 100

const model = { parts: [sphere('Ball', 1, 6, 8), sphere('Cube', 0.5, 4, 5, [2, 0, 0])] }
const noise = (n: number) => Uint8Array.from({ length: n }, (_, i) => (i * 7919 + (i >> 3) * 104729) & 255)
const obj = model.parts
  .map(
    p =>
      `o ${p.name}\n${[...p.position].reduce(
        (t, x, i) => t + (i % 3 ? ' ' : '\nv ') + x.toFixed(3),
        '',
      )}\n${[...p.index].reduce((t, x, i) => t + (i % 3 ? ' ' : '\nf ') + (x + 1), '')}\n`,
  )
  .join('')
const hdr = Uint8Array.from([
  ...new TextEncoder().encode('#?RADIANCE\nFORMAT=32-bit_rle_rgbe\n\n-Y 4 +X 5\n'),
  ...noise(80),
])
const GLTF = JSON.stringify({
  asset: { version: '2.0' },
  scenes: [{ nodes: [0] }],
  nodes: [{ mesh: 0, name: 'Sail' }],
  meshes: [{ primitives: [{ attributes: { POSITION: 0 } }] }],
  accessors: [{ bufferView: 0, componentType: 5126, count: 3, type: 'VEC3' }],
  bufferViews: [{ buffer: 0, byteLength: 36 }],
  buffers: [{ uri: 'a.bin', byteLength: 36 }],
})
const utf8 = (s: string) => new TextEncoder().encode(s)
const text = (b: Uint8Array) => new TextDecoder().decode(b)
const sane = (p: { width: number; height: number; data: ArrayLike<number> }) => {
  expect(p.width * p.height).toBeLessThanOrEqual(LARGEST_PICTURE)
  expect(p.data.length).toBe(p.width * p.height * 4)
}

const FORMATS: { name: string; sample(): Uint8Array | Promise<Uint8Array>; read(b: Uint8Array): unknown }[] = [
  {
    name: 'GLB',
    sample: () => writeGlb(model),
    read: async b => expect((await readGlb(b)).parts.length).toBeGreaterThan(0),
  },
  { name: 'PNG', sample: () => writePng(16, 12, noise(16 * 12 * 4)), read: b => sane(readPicture(b)) },
  {
    name: 'JPEG',
    sample: () => new Uint8Array(encodeJpeg({ width: 24, height: 16, data: noise(24 * 16 * 4) }, 80).data),
    read: b => sane(readPicture(b)),
  },
  {
    name: 'EXR',
    sample: () =>
      writeExr({
        width: 16,
        height: 9,
        attributes: {},
        channels: rgbChannels(Float32Array.from({ length: 16 * 9 * 3 }, (_, i) => i / 7)),
      }),
    read: b => sane(readPicture(b)),
  },
  { name: 'HDR', sample: () => hdr, read: b => sane(readPicture(b)) },
  { name: 'OBJ', sample: () => utf8(obj), read: b => expect(readObj(text(b)).parts.length).toBeGreaterThan(0) },
  {
    name: 'PLY',
    sample: () => writePly({ parts: [model.parts[0]!] }),
    read: b => {
      const m = readPly(b)
      for (const i of m.index) expect(i * 3).toBeLessThan(m.position.length)
    },
  },
  {
    name: 'glTF',
    sample: () => utf8(GLTF),
    read: async b => {
      const { model: m } = await readModelFiles([
        { name: 'a.gltf', bytes: b },
        { name: 'a.bin', bytes: new Uint8Array(36) },
      ])
      expect(m.parts.length).toBeGreaterThan(0)
    },
  },
  {
    name: 'MTL',
    sample: () =>
      utf8(
        'newmtl a\nKd 0.4 0.2 0.1\nNs 98\nmap_Kd -s 1 1 1 a.png\nbump -bm 0.4 b.png\nnewmtl b\nPm 1\nPr ' +
          '0.3\nd 0.5\nTf 1 0.5 0.5\nKe 1 1 0\n',
      ),
    read: b => {
      for (const m of materialsOfMtl(text(b), new Map())) expect(m.document.tag).toBe('materialx')
    },
  },
  {
    name: 'light rig',
    sample: () => utf8(writeRig(rigs(0.2)[0]!)),
    read: b => expect(readRig(text(b)).name.length).toBeLessThanOrEqual(120),
  },
  {
    name: 'MaterialX',
    sample: () => utf8(writeMtlx(starters.find(s => s.key === 'layered_paint')!.make())),
    read: b => expect(readMtlx(text(b)).tag).toBe('materialx'),
  },
]

/** Park–Miller, so that a failure can be found again. */
function generator(seed: number): (n: number) => number {
  let s = seed * 7919 + 17
  return n => (s = (s * 48271) % 2147483647) % n
}

/** Damages a file: bytes changed, cut off, taken out, doubled, or set to extremes. */
function mutate(bytes: Uint8Array, seed: number): Uint8Array {
  const random = generator(seed)
  const n = bytes.length
  const at = random(n)
  switch (seed % 6) {
    case 0: {
      const b = bytes.slice()
      for (let i = 0; i < 1 + random(8); i++) b[random(n)] = random(256)
      return b
    }
    case 1:
      return bytes.slice(0, at)
    case 2:
      return Uint8Array.from([...bytes.slice(0, at), ...bytes.slice(Math.min(n, at + 1 + random(40)))])
    case 3:
      return Uint8Array.from([...bytes.slice(0, at), ...bytes.slice(at, at + 60), ...bytes.slice(at)])
    case 4: {
      const b = bytes.slice()
      b.fill(255, at, Math.min(n, at + 1 + random(6)))
      return b
    }
    default: {
      const b = bytes.slice()
      const head = random(Math.min(n, 120))
      b.fill(random(2) * 127, head, head + 1 + random(4))
      return b
    }
  }
}

describe('damaged files', () => {
  it.each(FORMATS)(
    `$name: ${SEEDS} of them`,
    async ({ sample, read }) => {
      const good = await sample()
      await read(good)
      for (let seed = 0; seed < SEEDS; seed++) {
        const bad = mutate(good, seed)
        const start = performance.now()
        try {
          await read(bad)
        } catch (e) {
          expect(e, `seed ${seed}: ${e instanceof Error ? e.stack : e}`).toBeInstanceOf(FormatError)
          expect((e as Error).message.length).toBeGreaterThan(8)
        }
        expect(performance.now() - start, `seed ${seed}`).toBeLessThan(5000)
      }
    },
    600_000,
  )
})
