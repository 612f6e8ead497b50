import { acescgToRec709, decodeSRGB } from '../../colour/rgb'
import type { Picture } from './picture'

/**
 * A decoded picture as linear Rec.709 floats, three a pixel: 8 and 16 bits are taken as sRGB, floats as they are, or
 * as what their file says.
 */
export function linearRec709({ width, height, data, depth, space }: Picture): {
  width: number
  height: number
  rgb: Float32Array
} {
  const rgb = new Float32Array(width * height * 3)
  const linear = data instanceof Float32Array && depth !== 'sixteen'
  const scale = data instanceof Float32Array ? 1 : 1 / 255
  for (let i = 0; i < width * height; i++)
    for (let k = 0; k < 3; k++) {
      const x = data[i * 4 + k]! * scale
      rgb[i * 3 + k] = linear ? x : decodeSRGB(x)
    }
  if (space === 'acescg')
    for (let i = 0; i < rgb.length; i += 3) rgb.set(acescgToRec709(rgb.subarray(i, i + 3)), i)
  return { width, height, rgb }
}
