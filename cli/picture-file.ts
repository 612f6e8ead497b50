import { createHash } from 'node:crypto'
import { writeExr } from '../core/formats/pictures/exr'
import { writePng } from '../core/formats/pictures/png'
import { developPicture } from '../core/render/display'
import { meanChannels, type Film } from '../core/render/film'
import type { Element } from '../core/network/document'
import { clampSays } from '../core/scene/clamp-says'

export interface PictureFile {
  documents: readonly Element[]
  lights: readonly string[]
  seed: number
  passes: number | ((tile: number) => number)
  /** Passes in words. */ says: string
  /** Whether to say how many passes each pixel had. */ samples?: boolean
  /** See the scene's. */ clamp?: number
  /** Paths that the most bounces there may be ended, where that is known. */ cut?: number
}

/** A film's means as a multi-layer EXR, with what made it in its header. */
export function pictureFile(film: Film, o: PictureFile): Uint8Array {
  return writeExr({
    width: film.width,
    height: film.height,
    channels: meanChannels(film, o.passes, o.lights, o.samples),
    attributes: {
      'wavelume:documents': createHash('sha256').update(JSON.stringify(o.documents)).digest('hex'),
      'wavelume:seed': String(o.seed),
      'wavelume:passes': o.says,
      'wavelume:exposure': '0',
      'wavelume:clamps': clampSays(o.clamp),
      ...(o.cut === undefined ? {} : { 'wavelume:cut-paths': String(o.cut) }),
      'wavelume:filter': 'tent, 2 pixels wide',
    },
  })
}

/** A picture as it is shown, as PNG. @param exposure EV */
export function developedPng(rgb: Float32Array, width: number, height: number, exposure = 0): Uint8Array {
  const bytes = new Uint8ClampedArray(width * height * 4)
  developPicture(rgb, exposure, bytes)
  return writePng(width, height, new Uint8Array(bytes.buffer))
}
