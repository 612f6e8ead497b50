import { developPicture } from '../../core/render/display'

let paper: CanvasRenderingContext2D | null = null

/**
 * A small square picture (linear RGB floats) as the address of an image. Each canvas element is a layer of its own to
 * the compositor: 500 cards with one each were panned at 43 frames a second, with images at 57.
 */
export function pictureUrl(rgb: Float32Array): string {
  const size = Math.sqrt(rgb.length / 3)
  paper ??= document.createElement('canvas').getContext('2d', { willReadFrequently: true })!
  if (paper.canvas.width !== size) paper.canvas.width = paper.canvas.height = size
  const image = new ImageData(size, size)
  developPicture(rgb, 0, image.data)
  paper.putImageData(image, 0, 0)
  return paper.canvas.toDataURL()
}
