/** Materials of other formats as networks: what the readers of such formats share. */
import { element, type Element } from '../../network/document'
import { documentOf } from '../../network/starters'

/** A translated material: its document names images `embedded:N`, N counting `images`. */
export interface TranslatedMaterial {
  name: string
  document: Element
  images: { name: string; bytes: Uint8Array }[]
  /** What has no equivalent yet, in words. */ lost: string[]
}

/** An image node for picture number n. @param place row of its card */
export const embeddedImage = (
  name: string,
  type: string,
  place: number,
  n: number,
  file: string,
  srgb: boolean,
): Element =>
  element('image', { name, type, xpos: '0', ypos: String(place) }, [
    element('input', {
      name: 'file',
      type: 'filename',
      value: `embedded:${n}`,
      wl_name: file,
      ...(srgb ? { colorspace: 'srgb_texture' } : {}),
    }),
  ])

/** A document of the open surface with its inputs, and the nodes that feed them. */
export function surfaceDocument(name: string, nodes: readonly Element[], inputs: Element[]): Element {
  const d = documentOf(
    name.replace(/[^A-Za-z0-9_]/g, '_').replace(/^(\d)/, '_$1') || 'material',
    element(
      'open_pbr_surface',
      { name: 'stock', type: 'surfaceshader', wl_title: name.slice(0, 80), xpos: '3', ypos: '0' },
      inputs,
    ),
  )
  return { ...d, children: [...nodes, ...d.children] }
}
