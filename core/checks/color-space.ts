import { setAttribute } from '../network/edit'
import { inputOf, nameOf } from '../network/document'
import type { Finding } from './finding'
import type { Rule } from './rule'
import { sinksOf } from './walk'

const NAME = 'colour space against use'
const isImage = (tag: string) => tag === 'image' || tag === 'tiledimage'
const DATA = new RegExp(
  'roughness|normal|metalness|weight|mask|mix|ior|anisotropy|rotation|thickness|radius|darkening|opacity' +
    '|^in$|^low$|^high$',
)
const words = (input: string) => input.replace(/_/g, ' ')
const file = (text: string | undefined) => (text ?? '').split('/').at(-1) || 'an image'

/** Colour space against use: data read as sRGB, and colours of 8-bit pictures read as linear. */
export const colorSpace: Rule = {
  name: NAME,
  run: ({ document }) =>
    document.children
      .filter(e => isImage(e.tag))
      .flatMap((e): Finding[] => {
        const input = inputOf(e, 'file')
        const space = input?.attributes.colorspace ?? document.attributes.colorspace
        const sinks = sinksOf(document, nameOf(e))
        const named = file(input?.attributes.wl_name ?? input?.attributes.value)
        if (!e.attributes.type?.startsWith('color')) return []
        const data = sinks.find(s => DATA.test(s.input) && !s.input.includes('color'))
        if (data && space === 'srgb_texture')
          return [
            {
              rule: NAME,
              severity: 'warning',
              where: nameOf(e),
              message: `${named} is read as sRGB, but it drives ${words(data.input)} of ${data.path}.`,
              fix: 'Read it as data',
            },
          ]
        const colour = sinks.find(s => s.input.includes('color'))
        if (colour && !data && space !== 'srgb_texture' && /\.(png|jpe?g)$/i.test(named))
          return [
            {
              rule: NAME,
              severity: 'warning',
              where: nameOf(e),
              message:
                `${named} is an 8-bit picture read as linear, but it drives ${words(colour.input)} of ` +
                `${colour.path}.`,
              fix: 'Read it as sRGB',
            },
          ]
        return []
      }),
  mend: (document, finding) =>
    setAttribute(
      document,
      `${finding.where}/file`,
      'colorspace',
      finding.fix === 'Read it as sRGB' ? 'srgb_texture' : 'lin_rec709',
    ),
}
