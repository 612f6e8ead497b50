import { expect, it } from 'vitest'
import { isGrey } from './grey'

/** A picture of pixels as they are listed. */
const picture = (data: Uint8Array | Float32Array) => ({ width: data.length / 4, height: 1, data })

it('tells pictures without colour, in bytes and floats, from coloured ones and from maps of normals', () => {
  expect(isGrey(picture(Uint8Array.from([0, 0, 0, 255, 200, 203, 199, 255])))).toBe(true)
  expect(isGrey(picture(Float32Array.from([0.5, 0.5, 0.5, 1, 40, 40.5, 40, 1])))).toBe(true)
  expect(isGrey(picture(Uint8Array.from([90, 90, 90, 255, 200, 170, 160, 255])))).toBe(false)
  // a flat map of normals is one colour: 0, 0, 1 as 0..1
  expect(isGrey(picture(Uint8Array.from([128, 128, 255, 255])))).toBe(false)
})
