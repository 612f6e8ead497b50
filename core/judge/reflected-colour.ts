import { resampleToGrid } from '../colour/grid'
import { reflectanceToXYZ } from '../colour/observer'
import { transform, xyzToRec709 } from '../colour/rgb'

/**
 * Linear Rec.709 of what a material gives back of daylight (D65, CIE 1931 2° observer; CIE 015).
 * @param wavelengths nm, rising
 * @param reflectance at each, 0..1
 */
export const reflectedColour = (
  wavelengths: readonly number[],
  reflectance: readonly number[],
): [number, number, number] => transform(xyzToRec709, reflectanceToXYZ(resampleToGrid(wavelengths, reflectance)))
