/**
 * Materials of a glTF 2.0 file as networks of the open surface (glTF 2.0 §3.9 and the KHR_materials extensions
 * named below). Factors multiply maps; colours of maps are sRGB, everything else is data; roughness lies in green
 * and metalness in blue.
 */
import type { Document, Material, Texture } from '@gltf-transform/core'
import type {
  Anisotropy,
  Clearcoat,
  Dispersion,
  EmissiveStrength,
  Iridescence,
  IOR,
  Sheen,
  Specular,
  Transmission,
  Volume,
} from '@gltf-transform/extensions'
import { element, type Element } from '../../network/document'
import { embeddedImage, surfaceDocument, type TranslatedMaterial } from './translated'

const plain = (name: string, type: string, value: string) => element('input', { name, type, value })
const wire = (name: string, type: string, from: string) => element('input', { name, type, nodename: from })
const text = (v: readonly number[]) => v.map(x => String(+x.toPrecision(6))).join(', ')

/** Translates every material of a parsed file, in the file's order. */
export function materialsOfGltf(document: Document): TranslatedMaterial[] {
  return document
    .getRoot()
    .listMaterials()
    .map((m, i) => translate(m, m.getName() || `Material ${i + 1}`))
}

function translate(m: Material, name: string): TranslatedMaterial {
  const nodes: Element[] = []
  const inputs: Element[] = []
  const images: TranslatedMaterial['images'] = []
  const lost: string[] = []
  const numbers = new Map<Texture, number>()
  /** Adds an image node. @returns its name, or undefined where the texture holds nothing */
  function image(
    texture: Texture | null,
    info: { getTexCoord(): number } | null,
    as: string,
    type: string,
    srgb: boolean,
  ): string | undefined {
    const bytes = texture?.getImage()
    if (!texture || !bytes) return undefined
    if ((info?.getTexCoord() ?? 0) > 0) lost.push(`${as}: a second set of texture coordinates; the first is used`)
    let n = numbers.get(texture)
    if (n === undefined) {
      numbers.set(texture, (n = images.length))
      const ending = texture.getMimeType() === 'image/jpeg' ? 'jpg' : 'png'
      images.push({
        name: `${(texture.getName() || texture.getURI() || as).replace(/\.[^.]*$/, '').slice(0, 80)}.${ending}`,
        bytes,
      })
    }
    nodes.push(embeddedImage(as, type, nodes.length, n, images[n]!.name, srgb))
    return as
  }
  const node = (tag: string, as: string, type: string, column: number, children: Element[]) => {
    nodes.push(element(tag, { name: as, type, xpos: String(column), ypos: String(nodes.length) }, children))
    return as
  }
  /** A colour from a map and a factor. */
  function colour(input: string, map: string | undefined, factor: readonly number[]): void {
    if (map === undefined) inputs.push(plain(input, 'color3', text(factor)))
    else if (factor.every(x => x === 1)) inputs.push(wire(input, 'color3', map))
    else
      inputs.push(
        wire(
          input,
          'color3',
          node('multiply', `${map}_tinted`, 'color3', 1, [
            wire('in1', 'color3', map),
            plain('in2', 'color3', text(factor)),
          ]),
        ),
      )
  }
  /** A number from one channel of a map and a factor. */
  function channel(input: string, map: string | undefined, index: number, factor: number): void {
    if (map === undefined) {
      inputs.push(plain(input, 'float', text([factor])))
      return
    }
    const own = node('extract', `${input}_of_${map}`, 'float', 1, [
      wire('in', 'vector3', map),
      plain('index', 'integer', String(index)),
    ])
    inputs.push(
      wire(
        input,
        'float',
        factor === 1
          ? own
          : node('multiply', `${input}_scaled`, 'float', 2, [
              wire('in1', 'float', own),
              plain('in2', 'float', text([factor])),
            ]),
      ),
    )
  }

  colour(
    'base_color',
    image(m.getBaseColorTexture(), m.getBaseColorTextureInfo(), 'colour_map', 'color3', true),
    m.getBaseColorFactor().slice(0, 3),
  )
  const mr = image(
    m.getMetallicRoughnessTexture(),
    m.getMetallicRoughnessTextureInfo(),
    'metal_roughness_map',
    'vector3',
    false,
  )
  channel('base_metalness', mr, 2, m.getMetallicFactor())
  channel('specular_roughness', mr, 1, m.getRoughnessFactor())
  const normal = image(m.getNormalTexture(), m.getNormalTextureInfo(), 'normal_map', 'vector3', false)
  if (normal)
    inputs.push(
      wire(
        'geometry_normal',
        'vector3',
        node('normalmap', 'relief', 'vector3', 1, [
          wire('in', 'vector3', normal),
          plain('scale', 'float', text([m.getNormalScale()])),
        ]),
      ),
    )
  const emissive = m.getEmissiveFactor()
  const strength = m.getExtension<EmissiveStrength>('KHR_materials_emissive_strength')?.getEmissiveStrength() ?? 1
  if (emissive.some(x => x > 0)) {
    colour(
      'emission_color',
      image(m.getEmissiveTexture(), m.getEmissiveTextureInfo(), 'emission_map', 'color3', true),
      emissive,
    )
    inputs.push(plain('emission_luminance', 'float', text([strength])))
  }
  const ior = m.getExtension<IOR>('KHR_materials_ior')
  if (ior) inputs.push(plain('specular_ior', 'float', text([ior.getIOR()])))
  const transmission = m.getExtension<Transmission>('KHR_materials_transmission')
  if (transmission && transmission.getTransmissionFactor() > 0) {
    channel(
      'transmission_weight',
      image(
        transmission.getTransmissionTexture(),
        transmission.getTransmissionTextureInfo(),
        'transmission_map',
        'vector3',
        false,
      ),
      0,
      transmission.getTransmissionFactor(),
    )
    const volume = m.getExtension<Volume>('KHR_materials_volume')
    if (!volume) inputs.push(plain('geometry_thin_walled', 'boolean', 'true'))
    else if (Number.isFinite(volume.getAttenuationDistance()) && volume.getAttenuationDistance() > 0)
      inputs.push(
        plain('transmission_color', 'color3', text(volume.getAttenuationColor())),
        plain('transmission_depth', 'float', text([volume.getAttenuationDistance()])),
      )
  }
  const dispersion = m.getExtension<Dispersion>('KHR_materials_dispersion')?.getDispersion() ?? 0
  // KHR_materials_dispersion: 20 over the Abbe number
  if (dispersion > 0)
    inputs.push(
      plain('transmission_dispersion_scale', 'float', '1'),
      plain('transmission_dispersion_abbe_number', 'float', text([20 / dispersion])),
    )
  const film = m.getExtension<Iridescence>('KHR_materials_iridescence')
  if (film && film.getIridescenceFactor() > 0) {
    channel(
      'thin_film_weight',
      image(film.getIridescenceTexture(), film.getIridescenceTextureInfo(), 'film_map', 'vector3', false),
      0,
      film.getIridescenceFactor(),
    )
    inputs.push(plain('thin_film_ior', 'float', text([film.getIridescenceIOR()])))
    const thin = film.getIridescenceThicknessMinimum() / 1000
    const thick = film.getIridescenceThicknessMaximum() / 1000
    const map = image(
      film.getIridescenceThicknessTexture(),
      film.getIridescenceThicknessTextureInfo(),
      'film_thickness_map',
      'vector3',
      false,
    )
    if (map === undefined) inputs.push(plain('thin_film_thickness', 'float', text([thick])))
    else
      inputs.push(
        wire(
          'thin_film_thickness',
          'float',
          node('remap', 'film_thickness', 'float', 2, [
            wire(
              'in',
              'float',
              node('extract', 'film_thickness_share', 'float', 1, [
                wire('in', 'vector3', map),
                plain('index', 'integer', '1'),
              ]),
            ),
            plain('outlow', 'float', text([thin])),
            plain('outhigh', 'float', text([thick])),
          ]),
        ),
      )
  }
  const sheen = m.getExtension<Sheen>('KHR_materials_sheen')
  if (sheen && sheen.getSheenColorFactor().some(x => x > 0)) {
    inputs.push(plain('fuzz_weight', 'float', '1'))
    colour(
      'fuzz_color',
      image(sheen.getSheenColorTexture(), sheen.getSheenColorTextureInfo(), 'sheen_map', 'color3', true),
      sheen.getSheenColorFactor(),
    )
    channel('fuzz_roughness', undefined, 0, sheen.getSheenRoughnessFactor())
  }
  const grain = m.getExtension<Anisotropy>('KHR_materials_anisotropy')
  if (grain && grain.getAnisotropyStrength() > 0) {
    inputs.push(plain('specular_roughness_anisotropy', 'float', text([grain.getAnisotropyStrength()])))
    if (grain.getAnisotropyTexture() || grain.getAnisotropyRotation() !== 0)
      lost.push('the direction of its grain: it runs along the texture coordinates')
  }
  const specular = m.getExtension<Specular>('KHR_materials_specular')
  if (specular) {
    if (specular.getSpecularFactor() !== 1)
      inputs.push(plain('specular_weight', 'float', text([specular.getSpecularFactor()])))
    if (specular.getSpecularColorFactor().some(x => x !== 1))
      inputs.push(
        plain('specular_color', 'color3', text(specular.getSpecularColorFactor().map(x => Math.min(1, x)))),
      )
  }
  const coat = m.getExtension<Clearcoat>('KHR_materials_clearcoat')
  if (coat && coat.getClearcoatFactor() > 0) {
    channel(
      'coat_weight',
      image(coat.getClearcoatTexture(), coat.getClearcoatTextureInfo(), 'coat_map', 'vector3', false),
      0,
      coat.getClearcoatFactor(),
    )
    channel(
      'coat_roughness',
      image(
        coat.getClearcoatRoughnessTexture(),
        coat.getClearcoatRoughnessTextureInfo(),
        'coat_roughness_map',
        'vector3',
        false,
      ),
      1,
      coat.getClearcoatRoughnessFactor(),
    )
    // glTF lays the coat on without darkening what lies below
    inputs.push(plain('coat_darkening', 'float', '0'))
  }
  if (m.getAlphaMode() === 'MASK') lost.push('the threshold of its opacity: partly open surfaces are')
  if (m.getAlphaMode() !== 'OPAQUE') inputs.push(plain('geometry_opacity', 'float', text([m.getAlpha()])))
  if (m.getOcclusionTexture()) lost.push('the baked occlusion map is left out: occlusion is traced')
  return { name, document: surfaceDocument(name, nodes, inputs), images, lost }
}
