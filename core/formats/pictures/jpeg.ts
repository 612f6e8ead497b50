import { decode as decodeJpeg } from 'jpeg-js'
import { FormatError } from '../error'
import type { Picture, PictureFormat } from './picture'

function readJpeg(bytes: Uint8Array): Picture {
  try {
    const { width, height, data } = decodeJpeg(bytes, {
      useTArray: true,
      formatAsRGBA: true,
      maxResolutionInMP: 256,
      maxMemoryUsageInMB: 2048,
      tolerantDecoding: false,
    })
    return { width, height, data }
  } catch (e) {
    throw new FormatError('JPEG', e instanceof Error ? e.message : 'the file is damaged')
  }
}

export const jpeg: PictureFormat = {
  name: 'JPEG',
  endings: ['jpg', 'jpeg'],
  type: 'image/jpeg',
  magic: [0xff, 0xd8, 0xff],
  read: readJpeg,
}
