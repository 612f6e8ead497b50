import type { Picture } from '../../core/formats/pictures/picture'
import { ASSET } from '../../core/network/asset'
import type { Loader } from '../renderer/loader'

/**
 * Decoded pictures of assets, loaded when they are first asked for.
 * @param arrived hears of every picture that has come, or is missing
 */
export function useAssetPictures(loader: () => Loader | null, arrived: (came: boolean) => void) {
  const pictures = new Map<string, Picture | 'loading' | 'missing'>()

  /** Decoded picture of an asset; begins loading it when it is not there yet. */
  function picture(file: string): Picture | undefined {
    const hash = ASSET.exec(file)?.[1]
    if (!hash) return undefined
    const known = pictures.get(hash)
    if (known && typeof known === 'object') return known
    const l = loader()
    if (!known && l) {
      pictures.set(hash, 'loading')
      api
        .asset(hash)
        .then(bytes => l.picture(bytes))
        .then(
          p => {
            pictures.set(hash, p)
            arrived(true)
          },
          () => {
            pictures.set(hash, 'missing')
            arrived(false)
          },
        )
    }
    return undefined
  }

  const isMissing = (file: string): boolean => {
    const hash = ASSET.exec(file)?.[1]
    return !hash || pictures.get(hash) === 'missing'
  }
  return { picture, isMissing }
}
