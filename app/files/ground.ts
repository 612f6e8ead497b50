import { plain } from '../../core/formats/models/gltf-network'
import { surfaceDocument, type TranslatedMaterial } from '../../core/formats/models/translated'

/** Matt grey of 18 %. */
export const groundMaterial = (): TranslatedMaterial => ({
  name: 'Ground',
  document: surfaceDocument(
    'Ground',
    [],
    [plain('base_color', 'color3', '0.18, 0.18, 0.18'), plain('specular_roughness', 'float', '0.6')],
  ),
  images: [],
  lost: [],
})
