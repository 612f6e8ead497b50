import { addElement, connect, freeName, splitPath } from '../../core/network/edit'
import { element, findElement } from '../../core/network/document'
import type { InputDefinition } from '../../core/nodes/definition'
import { api } from '../composables/api'
import { useBench } from '../stores/bench'
import { useStage } from '../stores/stage'

/**
 * Drives an input by an image file: the file becomes an asset, an image node is placed beside the node and wired.
 * Colours are read as sRGB (floats as linear), all else as data.
 * @returns what was decided, in words
 */
export async function wireImage(file: File, node: string, input: InputDefinition): Promise<string | undefined> {
  const bench = useBench()
  const stage = useStage()
  const loader = stage.loader()
  const material = bench.materialKey
  if (!loader || material === null) return undefined
  const bytes = new Uint8Array(await file.arrayBuffer())
  const picture = await loader.picture(bytes)
  const hash = await api.putAsset(bytes, file.name)
  const colour = input.type.startsWith('color')
  const space = colour ? (picture.data instanceof Float32Array ? 'lin_rec709' : 'srgb_texture') : undefined
  const ok = bench.edit(
    `Image on ${node}`,
    d => {
      const [container] = splitPath(node)
      const scope = findElement(d, container) ?? d
      const within = (n: string) => (container ? `${container}/${n}` : n)
      const name = freeName(scope, file.name.replace(/\.[^.]*$/, ''))
      const at = findElement(d, node)?.attributes ?? {}
      const normal = /normal$/.test(input.name)
      const added = addElement(
        d,
        container,
        element(
          'image',
          {
            name,
            type: normal ? 'vector3' : input.type,
            xpos: String(Number(at.xpos ?? 0) - (normal ? 2 : 1)),
            ypos: String(Number(at.ypos ?? 0) + 0.6),
          },
          [
            element('input', {
              name: 'file',
              type: 'filename',
              value: `asset:${hash}`,
              wl_name: file.name,
              ...(space ? { colorspace: space } : {}),
            }),
          ],
        ),
      )
      if (!normal) return connect(added, within(name), node, input.name)
      const map = freeName(findElement(added, container) ?? added, 'normal_map')
      const mapped = addElement(
        added,
        container,
        element('normalmap', {
          name: map,
          type: 'vector3',
          xpos: String(Number(at.xpos ?? 0) - 1),
          ypos: String(Number(at.ypos ?? 0) + 0.6),
        }),
      )
      return connect(connect(mapped, within(name), within(map), 'in'), within(map), node, input.name)
    },
    undefined,
    material,
  )
  if (!ok) throw new Error(bench.refused)
  return (
    `${picture.width} × ${picture.height}, read as ` +
    `${space === 'srgb_texture' ? 'sRGB colour' : space === 'lin_rec709' ? 'linear colour' : 'data'}`
  )
}
