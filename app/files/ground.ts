/** What test pieces stand on. */
import { plain } from '../../core/formats/models/gltf-network'
import { surfaceDocument, type TranslatedMaterial } from '../../core/formats/models/translated'
import type { Model } from '../../core/mesh/model'

/** Whether a part is what others stand on. */
export const isGround = (name: string, { parts }: Model): boolean =>
  parts.length > 1 && /^(Ground|Step \d+)$/.test(name)

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
