import { MODEL } from '../../core/formats/models/ending'
import { PICTURE } from '../../core/formats/pictures/ending'

/** What a file is, by the ending of its name; what is in it is known once it is read. */
export type FileKind = 'picture' | 'material' | 'model' | 'other'

const MATERIAL = /\.(mtlx|zip)$/i

export const kindOf = (name: string): FileKind =>
  PICTURE.test(name) ? 'picture' : MATERIAL.test(name) ? 'material' : MODEL.test(name) ? 'model' : 'other'
