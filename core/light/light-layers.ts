/**
 * How a picture is kept apart by light: a layer for each named group of panels, for each other panel, for the
 * environment, and for what parts send out. Where that would be too many, panels without a group share a layer.
 */

/** Most layers: each takes a film of its own. */
export const MOST_LAYERS = 32
/** Panels and groups up to which each has a layer of its own: the environment and what parts send out have theirs. */
export const MOST_APART = MOST_LAYERS - 2
/** Layer of the panels that have none of their own. */
const OTHERS = 'other panels'

/** What is read of a panel. */
interface InLayer {
  name: string
  group?: string | undefined
}

/** @returns names of the layers, and for each light (panels, environment, emission) the number of its own */
export function lightLayers(panels: readonly InLayer[]): { names: string[]; of: Int32Array } {
  const groups = [...new Set(panels.flatMap(p => (p.group ? [p.group] : [])))]
  const alone = panels.filter(p => !p.group).length
  const fits = groups.length + alone <= MOST_APART
  // those that do not fit join the panels without a group
  const own = new Set(fits ? groups : groups.slice(0, MOST_APART - 1))
  const keys: string[] = []
  const at = new Map<string, number>()
  const layerOf = (key: string, name: string): number => {
    let k = at.get(key)
    if (k === undefined) {
      at.set(key, (k = keys.length))
      keys.push(name)
    }
    return k
  }
  const of = panels.map((p, i) =>
    p.group && own.has(p.group)
      ? layerOf(`group ${p.group}`, p.group)
      : fits
        ? layerOf(`panel ${i}`, p.name)
        : layerOf('others', OTHERS),
  )
  return { names: [...keys, 'environment', 'emission'], of: Int32Array.of(...of, keys.length, keys.length + 1) }
}
