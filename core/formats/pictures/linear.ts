import { decodeSRGB } from '../../colour/rgb'
import type { Picture } from './picture'

/** A decoded picture as linear Rec.709 floats, three a pixel: bytes are taken as sRGB, floats as they are. */
export function linearRec709({ width, height, data }: Picture): {
  width: number
  height: number
  rgb: Float32Array
} {
  const rgb = new Float32Array(width * height * 3)
  for (let i = 0; i < width * height; i++)
    for (let k = 0; k < 3; k++)
      rgb[i * 3 + k] = data instanceof Float32Array ? data[i * 4 + k]! : decodeSRGB(data[i * 4 + k]! / 255)
  return { width, height, rgb }
}
