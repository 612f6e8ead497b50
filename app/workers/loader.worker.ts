/** Reads files and builds geometry off the page's own thread. One request, one answer. */
import { readGlb } from '../../core/formats/glb'
import { readPicture, writePng } from '../../core/formats/image'
import { rgbChannels, writeExr } from '../../core/formats/exr'
import type { Model } from '../../core/mesh/model'
import { developPicture } from '../../core/render/display'
import { createGeometry } from '../../core/scene/geometry'
import type { LoaderRequest } from '../renderer/loader'

const shared = (bytes: number): ArrayBufferLike => new SharedArrayBuffer(bytes)
let model: Model | undefined

async function answer(r: LoaderRequest): Promise<unknown> {
  switch (r.kind) {
    case 'model': model = await readGlb(r.bytes); return model.parts.map(p => p.name)
    case 'geometry': return createGeometry(model ?? { parts: [] }, new Set(r.hidden), shared)
    case 'picture': {
      const p = readPicture(r.bytes), data = p.data instanceof Float32Array ? new Float32Array(shared(p.data.byteLength)) : new Uint8Array(shared(p.data.byteLength))
      data.set(p.data)
      return { width: p.width, height: p.height, data }
    }
    case 'exr': return writeExr({ width: r.width, height: r.height, attributes: r.attributes, channels: rgbChannels(r.rgb) })
    case 'png': {
      const scale = Math.min(1, r.most / Math.max(r.width, r.height)), w = Math.max(1, Math.round(r.width * scale)), h = Math.max(1, Math.round(r.height * scale))
      const small = new Float32Array(w * h * 3), count = new Float32Array(w * h)
      // box filter: every pixel falls into one small pixel
      for (let y = 0; y < r.height; y++) for (let x = 0; x < r.width; x++) {
        const o = Math.min(h - 1, Math.floor(y * scale)) * w + Math.min(w - 1, Math.floor(x * scale))
        for (let k = 0; k < 3; k++) small[o * 3 + k]! += r.rgb[(y * r.width + x) * 3 + k]!
        count[o]!++
      }
      for (let i = 0; i < small.length; i++) small[i]! /= count[Math.floor(i / 3)]!
      const bytes = new Uint8ClampedArray(w * h * 4)
      developPicture(small, r.exposure, bytes)
      return writePng(w, h, new Uint8Array(bytes.buffer))
    }
  }
}

addEventListener('message', async (event: MessageEvent<LoaderRequest & { id: number }>) => {
  try { postMessage({ id: event.data.id, value: await answer(event.data) }) }
  catch (e) { postMessage({ id: event.data.id, error: e instanceof Error ? e.message : String(e) }) }
})
