import { deflateSync } from 'node:zlib'
import { strToU8, zipSync } from 'fflate'
import { afterEach, describe, expect, it } from 'vitest'
import { adler32, crc32 } from './checksums'
import { FormatError } from './error'
import { parseGltf, readGlb } from './models/glb'
import { readPicture } from './pictures'
import { readExr, rgbChannels, writeExr } from './pictures/exr'
import { writePng } from './pictures/png'
import { roomOfFiles, setRoomOfFiles } from './promises'
import { unpackZip, unpackZlib } from './unpack'

const bytes = (...of: (string | number[] | Uint8Array)[]): Uint8Array =>
  Uint8Array.from(of.flatMap(x => (typeof x === 'string' ? [...new TextEncoder().encode(x)] : [...x])))
const u32 = (n: number) => [n >>> 24, (n >> 16) & 255, (n >> 8) & 255, n & 255]
const u16 = (n: number) => [n >> 8, n & 255]
/** A chunk of a PNG (W3C PNG, 5.3). */
const chunk = (type: string, data: Uint8Array) => {
  const body = bytes(type, data)
  return bytes(u32(data.length), body, u32(crc32(body)))
}
const png = (width: number, height: number, depth: number, colour: number, data: Uint8Array) =>
  bytes(
    [0x89, 0x50, 0x4e, 0x47, 13, 10, 26, 10],
    chunk('IHDR', bytes(u32(width), u32(height), [depth, colour, 0, 0, 0])),
    chunk('IDAT', data),
    chunk('IEND', new Uint8Array(0)),
  )
/** A JPEG whose frame header promises a size. */
const jpeg = (width: number, height: number, length: number) =>
  bytes(
    [0xff, 0xd8, 0xff, 0xc0, ...u16(17), 8, ...u16(height), ...u16(width), 3, 1, 0x22, 0, 2, 0x11, 0, 3, 0x11, 0],
    new Uint8Array(length),
  )
const glb = (json: object) => {
  const text = JSON.stringify(json).padEnd(Math.ceil(JSON.stringify(json).length / 4) * 4)
  const out = new Uint8Array(20 + text.length)
  const view = new DataView(out.buffer)
  ;[0x46546c67, 2, out.length, text.length, 0x4e4f534a].forEach((x, i) => view.setUint32(i * 4, x, true))
  out.set(strToU8(text), 20)
  return out
}
/** What reading throws. */
async function refused(read: () => unknown): Promise<string> {
  try {
    await read()
  } catch (e) {
    expect(e).toBeInstanceOf(FormatError)
    return (e as Error).message
  }
  return ''
}

describe('what files promise', () => {
  afterEach(() => setRoomOfFiles(2 ** 30))

  it('is refused from the header where it is more than there is room for', async () => {
    // a megabyte of zeros, packed: 16 384² pixels of 16 bits
    const packed = deflateSync(new Uint8Array(2 ** 20))
    const large = bytes(png(11000, 11000, 16, 6, packed), new Uint8Array(2 ** 20))
    expect(await refused(() => readPicture(large))).toMatch(
      /11000 × 11000 pixels need \d+ MiB.*a file may take 1024/,
    )
    expect(await refused(() => readPicture(jpeg(16000, 16000, 3_000_000)))).toMatch(/MiB to be read/)
  })
  it('is refused where so short a file cannot hold it', async () => {
    expect(await refused(() => readPicture(png(8000, 8000, 8, 6, deflateSync(new Uint8Array(9)))))).toMatch(
      /too short/,
    )
    expect(await refused(() => readPicture(jpeg(8000, 8000, 2000)))).toMatch(/too short/)
    const hdr = bytes('#?RADIANCE\nFORMAT=32-bit_rle_rgbe\n\n-Y 4000 +X 4000\n', new Uint8Array(100))
    expect(await refused(() => readPicture(hdr))).toMatch(/too short/)
    const exr = writeExr({ width: 4, height: 4, channels: rgbChannels(new Float32Array(48)), attributes: {} })
    const at = bytes(exr).findIndex((_, i) => String.fromCharCode(...exr.subarray(i, i + 10)) === 'dataWindow')
    const view = new DataView(exr.buffer)
    view.setInt32(at + 11 + 6 + 4 + 8, 7999, true)
    view.setInt32(at + 11 + 6 + 4 + 12, 7999, true)
    expect(await refused(() => readPicture(exr))).toMatch(/8000 × 8000 pixels of 3 channels/)
  })
  it('is refused of meshes whose accessors hold less, or hold zeros beyond all room', async () => {
    const mesh = (accessor: object, extra: object = {}) =>
      glb({
        asset: { version: '2.0' },
        scenes: [{ nodes: [0] }],
        nodes: [{ mesh: 0 }],
        meshes: [{ primitives: [{ attributes: { POSITION: 0 } }] }],
        accessors: [accessor],
        ...extra,
      })
    expect(await refused(() => readGlb(mesh({ count: 3e8, type: 'VEC3', componentType: 5126 })))).toMatch(/MiB/)
    // of several files as much as of one
    const text = JSON.stringify({
      asset: { version: '2.0' },
      scenes: [{ nodes: [] }],
      accessors: [{ count: 3e8, type: 'VEC3', componentType: 5126 }],
    })
    expect(await refused(() => parseGltf(text, new Map()))).toMatch(/^glTF: .*MiB/)
    const views = { bufferViews: [{ buffer: 0, byteLength: 36 }], buffers: [{ byteLength: 36 }] }
    const much = { count: 300, type: 'VEC3', componentType: 5126, bufferView: 0 }
    expect(await refused(() => readGlb(mesh(much, views)))).toMatch(/more than its view holds \(accessors\/0\)/)
    for (const count of [-1, 1.5, 1e300])
      expect(await refused(() => readGlb(mesh({ ...much, count }, views)))).toMatch(/accessors\/0\/count/)
  })
  it('has more room where the host says so, and less on small machines', async () => {
    const small = writePng(600, 600, new Uint8Array(600 * 600 * 4))
    expect(readPicture(small).width).toBe(600)
    setRoomOfFiles(2 ** 20)
    expect(await refused(() => readPicture(small))).toMatch(/a file may take 1\b/)
    expect(() => setRoomOfFiles(0)).toThrow(RangeError)
    expect([2 ** 40, 2 ** 32, 2 ** 20].map(roomOfFiles)).toEqual([2 ** 30, 2 ** 29, 2 ** 26])
  })
})

describe('sums that files carry', () => {
  it('are those of the standards', () => {
    // RFC 1950's and ISO 3309's check values of "123456789", from memory; Node's zlib is the witness of the rest
    const digits = strToU8('123456789')
    expect([adler32(digits), crc32(digits)]).toEqual([0x091e01de, 0xcbf43926])
    const noise = Uint8Array.from({ length: 20_000 }, (_, i) => (i * 7919 + (i >> 3)) & 255)
    const packed = deflateSync(noise)
    expect(unpackZlib('X', packed, noise.length, 'here')).toEqual(noise)
  })
  it('tell every flipped bit of packed EXR lines', () => {
    const rgb = Float32Array.from({ length: 16 * 16 * 3 }, (_, i) => (i % 17) / 7)
    const file = writeExr({ width: 16, height: 16, channels: rgbChannels(rgb), attributes: {} })
    // the only block: its line, its size, and what is packed
    const size = new DataView(file.buffer)
    let block = 0
    for (let i = 0; i < file.length - 8; i++)
      if (size.getInt32(i, true) === 0 && size.getInt32(i + 4, true) === file.length - i - 8) block = i + 8
    expect(block).toBeGreaterThan(300)
    let told = 0
    for (let i = block; i < file.length; i++) {
      const broken = Uint8Array.from(file)
      broken[i]! ^= 1 << (i % 8)
      let differs = false
      try {
        const read = readExr(broken)
        differs = 'RGB'.split('').some((c, k) => read.channels.get(c)!.some((x, p) => x !== rgb[p * 3 + k]))
      } catch (e) {
        expect(e).toBeInstanceOf(FormatError)
        told++
      }
      expect(differs).toBe(false)
    }
    expect(told).toBeGreaterThan((file.length - block) * 0.9)
  })
  it('tell damaged files of a zip, and zips that unpack to more than they may', () => {
    const text = 'colour of the sea '.repeat(50)
    const zip = zipSync({ 'a.mtlx': strToU8(text), 'b/ü.txt': [strToU8('stored'), { level: 0 }] })
    expect(new TextDecoder().decode(unpackZip(zip, 1e6)['a.mtlx'])).toBe(text)
    expect(Object.keys(unpackZip(zip, 1e6))).toEqual(['a.mtlx', 'b/ü.txt'])
    const stored = new TextDecoder('latin1').decode(zip).indexOf('stored')
    const broken = Uint8Array.from(zip)
    broken[stored + 2]! ^= 4
    expect(() => unpackZip(broken, 1e6)).toThrow(/damaged \(b\/ü.txt\)/)
    expect(() => unpackZip(zip, 500)).toThrow(FormatError)
    expect(() => unpackZip(zip.subarray(0, 60), 1e6)).toThrow(FormatError)
  })
  it('end a stream that goes on beyond what it has to be', async () => {
    const bomb = deflateSync(new Uint8Array(300_000_000))
    expect(await refused(() => unpackZlib('X', bomb, 1000, 'line 0'))).toMatch(/damaged \(line 0\)/)
  })
})
