import type { Picture } from '../../core/formats/pictures/picture'
import { api } from '../composables/api'
import { useStage } from '../stores/stage'

/** A picture that was taken in. */
export interface TakenPicture {
  /** Its name in documents. */
  file: string
  name: string
  picture: Picture
}

/**
 * Takes a file in as an asset.
 * @returns undefined while no project is open
 * @throws FormatError where the file is no picture
 */
export async function takePicture(file: File): Promise<TakenPicture | undefined> {
  const loader = useStage().loader()
  if (!loader) return undefined
  const bytes = new Uint8Array(await file.arrayBuffer())
  const picture = await loader.picture(bytes)
  return { file: `asset:${await api.putAsset(bytes, file.name)}`, name: file.name, picture }
}

/** Space that a picture is read in until somebody says another: floats are linear, bytes sRGB. */
export const usualSpace = (picture: Picture): string =>
  picture.data instanceof Float32Array ? 'lin_rec709' : 'srgb_texture'
