import type { Picture } from '../../core/formats/pictures/picture'
import { bytesOf, type TextureMap } from '../../core/maps/map'
import { ASSET } from '../../core/network/asset'
import type { Loader } from '../renderer/loader'

/**
 * Decoded pictures of assets and maps made of them, loaded when they are first asked for. Maps have a room (`mapMemory`
 * of `nuxt.config.ts`). Those that no material wears are given back first, the one used longest ago before others;
 * tiles of what still does not fit are kept in a file, and read as they are looked up.
 * @param arrived hears of every picture that has come, or is missing
 */
export function useAssetPictures(loader: () => Loader | null, arrived: (came: boolean) => void) {
  const room = useRuntimeConfig().public.mapMemory * 2 ** 20
  const pictures = new Map<string, Picture | 'loading' | 'missing'>()
  /** By colour space and hash, those asked for last at the end. */
  const maps = new Map<string, TextureMap | 'loading' | 'missing'>()
  /** Ends when the map that was asked for last has come or failed. */
  let last: Promise<unknown> = Promise.resolve()
  const hashOf = (file: string) => ASSET.exec(file)?.[1]

  /** What was loaded for a key; begins loading it when it is not there yet. */
  function loaded<T extends object>(
    known: Map<string, T | 'loading' | 'missing'>,
    key: string,
    load: (l: Loader) => Promise<T>,
  ): T | undefined {
    const value = known.get(key)
    if (value && typeof value === 'object') return value
    const l = loader()
    if (!value && l) {
      known.set(key, 'loading')
      load(l).then(
        x => {
          known.set(key, x)
          arrived(true)
        },
        () => {
          known.set(key, 'missing')
          arrived(false)
        },
      )
    }
    return undefined
  }

  /** Decoded picture of an asset. */
  function picture(file: string): Picture | undefined {
    const hash = hashOf(file)
    return hash ? loaded(pictures, hash, async l => l.picture(await api.asset(hash))) : undefined
  }

  const taken = (): number => {
    let sum = 0
    for (const m of maps.values()) if (typeof m === 'object') sum += bytesOf(m)
    return sum
  }

  /** Map of an asset in a colour space. */
  function map(file: string, colorspace: string): TextureMap | undefined {
    const hash = hashOf(file)
    if (!hash) return undefined
    const id = colorspace + ' ' + hash
    const known = maps.get(id)
    if (known) {
      maps.delete(id)
      maps.set(id, known)
    }
    return loaded(maps, id, l => {
      const bytes = api.asset(hash)
      bytes.catch(() => undefined)
      // one after the other, so that each knows what room the others left
      const made = last.then(async () => l.map(await bytes, colorspace, id, room - taken()))
      last = made.catch(() => undefined)
      return made
    })
  }

  /** Gives memory back, where more is taken than may be, by forgetting maps that are not among these. */
  function keepWithin(worn: ReadonlySet<TextureMap>): void {
    let over = taken() - room
    for (const [id, m] of maps) {
      if (!(over > 0)) return
      if (typeof m !== 'object' || worn.has(m)) continue
      over -= bytesOf(m)
      maps.delete(id)
    }
  }

  const isMissing = (file: string): boolean => {
    const hash = hashOf(file)
    return (
      !hash ||
      pictures.get(hash) === 'missing' ||
      [...maps].some(([id, m]) => m === 'missing' && id.endsWith(hash))
    )
  }
  return { picture, map, keepWithin, isMissing }
}
