/**
 * Materials of a glTF 2.0 file as networks of the open surface (glTF 2.0 §3.9 and the KHR_materials extensions
 * named below). Factors multiply maps; colours of maps are sRGB, everything else is data; roughness lies in green
 * and metalness in blue.
 */
import type { Document, Material } from '@gltf-transform/core'
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
  Unlit,
  Volume,
} from '@gltf-transform/extensions'
import { createNetwork, plain, text, wire } from './gltf-network'
import { surfaceDocument, type TranslatedMaterial } from './translated'

/** Translates every material of a parsed file, in the file's order. */
export function materialsOfGltf(document: Document): TranslatedMaterial[] {
  const root = document.getRoot()
  const coloured = new Set<Material | null>(
    root
      .listMeshes()
      .flatMap(m => m.listPrimitives())
      .filter(p => p.getAttribute('COLOR_0'))
      .map(p => p.getMaterial()),
  )
  return root.listMaterials().map((m, i) => translate(m, m.getName() || `Material ${i + 1}`, coloured.has(m)))
}

/** @param coloured whether it lies on vertices that have colours */
function translate(m: Material, name: string, coloured: boolean): TranslatedMaterial {
  const { nodes, inputs, images, lost, node, image, colour, channelNode, channel, relief } = createNetwork()
  const vertices = coloured ? node('geomcolor', 'vertex_colour', 'color3', 0, []) : undefined
  const unlit = m.getExtension<Unlit>('KHR_materials_unlit') !== null
  const base = image(m.getBaseColorTexture(), m.getBaseColorTextureInfo(), 'colour_map', 'color3', true)
  opacity()
  if (unlit) {
    colour('emission_color', base, m.getBaseColorFactor().slice(0, 3), vertices)
    for (const [input, value] of [
      ['emission_luminance', '1'],
      ['base_weight', '0'],
      ['specular_weight', '0'],
    ] as const)
      inputs.push(plain(input, 'float', value))
    return { name, document: surfaceDocument(name, nodes, inputs), images, lost }
  }

  /** Opacity by the mode (glTF 2.0 §3.9.4): the base colour's alpha, whole, cut off, or as it is. */
  function opacity(): void {
    const mode = m.getAlphaMode()
    if (mode === 'OPAQUE') return
    const map = image(m.getBaseColorTexture(), m.getBaseColorTextureInfo(), 'alpha_map', 'color4', true)
    const from = channelNode('alpha', map, 'color4', 3, m.getAlpha())
    if (mode === 'BLEND') {
      inputs.push(
        from ? wire('geometry_opacity', 'float', from) : plain('geometry_opacity', 'float', text([m.getAlpha()])),
      )
      return
    }
    const cutoff = m.getAlphaCutoff()
    if (from === undefined) inputs.push(plain('geometry_opacity', 'float', m.getAlpha() >= cutoff ? '1' : '0'))
    else
      inputs.push(
        wire(
          'geometry_opacity',
          'float',
          node('ifgreatereq', 'cut_off', 'float', 2, [
            wire('value1', 'float', from),
            plain('value2', 'float', text([cutoff])),
            plain('in1', 'float', '1'),
            plain('in2', 'float', '0'),
          ]),
        ),
      )
  }

  colour('base_color', base, m.getBaseColorFactor().slice(0, 3), vertices)
  const mr = image(
    m.getMetallicRoughnessTexture(),
    m.getMetallicRoughnessTextureInfo(),
    'metal_roughness_map',
    'vector3',
    false,
  )
  channel('base_metalness', mr, 2, m.getMetallicFactor())
  channel('specular_roughness', mr, 1, m.getRoughnessFactor())
  relief(
    'geometry_normal',
    image(m.getNormalTexture(), m.getNormalTextureInfo(), 'normal_map', 'vector3', false),
    'relief',
    m.getNormalScale(),
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
    if (volume?.getThicknessTexture()) lost.push('the map of its thickness: the mesh itself is as thick as it is')
    if (!volume || volume.getThicknessFactor() === 0) inputs.push(plain('geometry_thin_walled', 'boolean', 'true'))
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
    channel(
      'fuzz_roughness',
      image(
        sheen.getSheenRoughnessTexture(),
        sheen.getSheenRoughnessTextureInfo(),
        'sheen_roughness_map',
        'color4',
        false,
      ),
      3,
      sheen.getSheenRoughnessFactor(),
      'color4',
    )
  }
  const grain = m.getExtension<Anisotropy>('KHR_materials_anisotropy')
  if (grain && grain.getAnisotropyStrength() > 0) {
    inputs.push(plain('specular_roughness_anisotropy', 'float', text([grain.getAnisotropyStrength()])))
    if (grain.getAnisotropyTexture() || grain.getAnisotropyRotation() !== 0)
      lost.push('the direction of its grain: it runs along the texture coordinates')
  }
  const specular = m.getExtension<Specular>('KHR_materials_specular')
  if (specular) {
    const weight = image(
      specular.getSpecularTexture(),
      specular.getSpecularTextureInfo(),
      'specular_map',
      'color4',
      false,
    )
    if (weight !== undefined || specular.getSpecularFactor() !== 1)
      channel('specular_weight', weight, 3, specular.getSpecularFactor(), 'color4')
    const factor = specular.getSpecularColorFactor()
    const map = image(
      specular.getSpecularColorTexture(),
      specular.getSpecularColorTextureInfo(),
      'specular_colour_map',
      'color3',
      true,
    )
    if (factor.some(x => x > 1)) lost.push('what its specular colour has above 1')
    if (map !== undefined || factor.some(x => x !== 1))
      colour(
        'specular_color',
        map,
        factor.map(x => Math.min(1, x)),
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
    relief(
      'geometry_coat_normal',
      image(
        coat.getClearcoatNormalTexture(),
        coat.getClearcoatNormalTextureInfo(),
        'coat_normal_map',
        'vector3',
        false,
      ),
      'coat_relief',
      coat.getClearcoatNormalScale(),
    )
    // glTF lays the coat on without darkening what lies below
    inputs.push(plain('coat_darkening', 'float', '0'))
  }
  if (m.getOcclusionTexture()) lost.push('the baked occlusion map is left out: occlusion is traced')
  return { name, document: surfaceDocument(name, nodes, inputs), images, lost }
}
