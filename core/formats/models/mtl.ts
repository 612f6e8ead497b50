/**
 * Materials of a Wavefront MTL as networks of the open surface. The format is a phenomenological one; what is said
 * here of roughness is common practice: a Blinn–Phong exponent Ns has the width of a microfacet lobe of α =
 * √(2 /
 * (Ns + 2)) (Walter et al. 2007, eq. 37 ff.), and α is the square of our roughness.
 */
import { table } from '../../nodes/table'
import { element, type Element } from '../../network/document'
import { FormatError } from '../error'
import { embeddedImage, surfaceDocument, type TranslatedMaterial } from './translated'

interface Raw {
  name: string
  numbers: Map<string, number[]>
  maps: Map<string, { file: string; scale: number }>
}

const NUMBERS = new Set(['Kd', 'Ks', 'Ke', 'Tf', 'Ns', 'Ni', 'd', 'Tr', 'Pr', 'Pm', 'illum'])
const MAPS = table<string>({
  map_Kd: 'map_Kd',
  map_Pr: 'map_Pr',
  map_Pm: 'map_Pm',
  map_Ke: 'map_Ke',
  map_Bump: 'bump',
  map_bump: 'bump',
  bump: 'bump',
  norm: 'norm',
})
/** Options of a map statement and how many words follow each. */
const OPTIONS = table<number>({
  '-blendu': 1,
  '-blendv': 1,
  '-boost': 1,
  '-cc': 1,
  '-clamp': 1,
  '-imfchan': 1,
  '-mm': 2,
  '-o': 3,
  '-s': 3,
  '-t': 3,
  '-texres': 1,
  '-type': 1,
})

function parse(text: string): Raw[] {
  const out: Raw[] = []
  text.split('\n').forEach((line, i) => {
    const [word, ...rest] = line.trim().split(/\s+/)
    if (!word || word.startsWith('#')) return
    if (word === 'newmtl') {
      out.push({
        name: rest.join(' ').slice(0, 120) || `Material ${out.length + 1}`,
        numbers: new Map(),
        maps: new Map(),
      })
      return
    }
    const m = out.at(-1)
    if (NUMBERS.has(word)) {
      if (!m) throw new FormatError('MTL', `${word} stands before any newmtl`, `line ${i + 1}`)
      const values = rest.map(Number)
      if (!values.length || values.some(v => !Number.isFinite(v)))
        throw new FormatError('MTL', `${word} needs numbers`, `line ${i + 1}`)
      m.numbers.set(word, values)
    } else if (MAPS[word] && m) {
      let scale = 1
      const words = [...rest]
      while (words[0]?.startsWith('-')) {
        const option = words.shift()!
        if (option === '-bm') {
          scale = Number(words.shift()) || 1
          continue
        }
        for (
          let k = OPTIONS[option] ?? 1;
          k > 0 && words.length > 1 && (k === (OPTIONS[option] ?? 1) || Number.isFinite(Number(words[0])));
          k--
        )
          words.shift()
      }
      // names may come with folders of another system; only the name counts
      m.maps.set(MAPS[word]!, { file: words.join(' ').split(/[\\/]/).at(-1)!, scale })
    }
  })
  return out
}

const colour = (v: readonly number[]): string =>
  [v[0]!, v[1] ?? v[0]!, v[2] ?? v[0]!].map(x => String(+x.toPrecision(6))).join(', ')

/**
 * Translates every material of an MTL file, in its order.
 * @param files that came with it, by name
 * @throws FormatError with the line where something is wrong
 */
export function materialsOfMtl(text: string, files: ReadonlyMap<string, Uint8Array>): TranslatedMaterial[] {
  return parse(text).map(m => {
    const nodes: Element[] = []
    const inputs: Element[] = []
    const images: TranslatedMaterial['images'] = []
    const lost: string[] = []
    const plain = (name: string, type: string, value: string) =>
      inputs.push(element('input', { name, type, value }))
    const wire = (name: string, type: string, from: string) =>
      inputs.push(element('input', { name, type, nodename: from }))
    /** An image node for a map. @returns its name, undefined where there is none */
    const map = (key: string, as: string, type: string, srgb: boolean): string | undefined => {
      const said = m.maps.get(key)
      const bytes = said && files.get(said.file)
      if (!said) return undefined
      if (!bytes) {
        lost.push(`the map ${said.file} did not come with it`)
        return undefined
      }
      const n = images.push({ name: said.file.slice(0, 80), bytes }) - 1
      nodes.push(embeddedImage(as, type, nodes.length, n, said.file.slice(0, 80), srgb))
      return as
    }
    const number = (key: string): number | undefined => m.numbers.get(key)?.[0]
    const base = map('map_Kd', 'colour_map', 'color3', true)
    if (base) wire('base_color', 'color3', base)
    else if (m.numbers.has('Kd')) plain('base_color', 'color3', colour(m.numbers.get('Kd')!))
    const rough = map('map_Pr', 'roughness_map', 'float', false)
    const Pr = number('Pr')
    const Ns = number('Ns')
    if (rough) wire('specular_roughness', 'float', rough)
    else if (Pr !== undefined) plain('specular_roughness', 'float', String(Math.min(1, Math.max(0, Pr))))
    else if (Ns !== undefined)
      plain('specular_roughness', 'float', String(+Math.sqrt(Math.sqrt(2 / (Math.max(0, Ns) + 2))).toFixed(4)))
    const metal = map('map_Pm', 'metal_map', 'float', false)
    const Pm = number('Pm')
    if (metal) wire('base_metalness', 'float', metal)
    else if (Pm !== undefined) plain('base_metalness', 'float', String(Math.min(1, Math.max(0, Pm))))
    const Ni = number('Ni')
    if (Ni !== undefined && Ni > 1) plain('specular_ior', 'float', String(Math.min(3, Ni)))
    const opacity = number('d') ?? (number('Tr') !== undefined ? 1 - number('Tr')! : 1)
    const Tf = m.numbers.get('Tf')
    if (opacity < 0.999) {
      plain('transmission_weight', 'float', String(+(1 - Math.max(0, opacity)).toFixed(4)))
      if (Tf) plain('transmission_color', 'color3', colour(Tf))
      lost.push('dissolve is taken as clear transmission')
    }
    const Ke = m.numbers.get('Ke')
    const glow = map('map_Ke', 'emission_map', 'color3', true)
    if (glow) wire('emission_color', 'color3', glow)
    else if (Ke?.some(x => x > 0)) plain('emission_color', 'color3', colour(Ke))
    if (glow || Ke?.some(x => x > 0)) plain('emission_luminance', 'float', '1')
    const normal = map('norm', 'normal_map', 'vector3', false)
    const height = normal ? undefined : map('bump', 'height_map', 'float', false)
    if (normal || height) {
      const scale = m.maps.get(normal ? 'norm' : 'bump')!.scale
      nodes.push(
        normal
          ? element('normalmap', { name: 'relief', type: 'vector3', xpos: '1', ypos: String(nodes.length) }, [
              element('input', { name: 'in', type: 'vector3', nodename: normal }),
            ])
          : element('bump', { name: 'relief', type: 'vector3', xpos: '1', ypos: String(nodes.length) }, [
              element('input', { name: 'height', type: 'float', nodename: height! }),
              element('input', { name: 'scale', type: 'float', value: String(scale) }),
            ]),
      )
      wire('geometry_normal', 'vector3', 'relief')
    }
    return { name: m.name, document: surfaceDocument(m.name, nodes, inputs), images, lost }
  })
}
