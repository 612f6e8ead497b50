import type { Document } from '@gltf-transform/core'
import { modelOf, parseGlb, parseGltf } from './glb'
import { lightsOfGltf } from './gltf-lights'
import { materialsOfGltf } from './gltf-materials'
import type { ModelFiles, ModelFormat } from './model-format'

/** A glTF with its materials and lights; its unit is the metre. */
function filesOf(document: Document): ModelFiles {
  const { panels, lost } = lightsOfGltf(document)
  const { left, ...model } = modelOf(document)
  return {
    ...model,
    materials: materialsOfGltf(document),
    unitKnown: true,
    missing: [...left, ...lost],
    lights: panels,
  }
}

export const glb: ModelFormat = { ending: 'glb', read: async bytes => filesOf(await parseGlb(bytes)) }
export const gltf: ModelFormat = {
  ending: 'gltf',
  read: async (bytes, files) => filesOf(await parseGltf(new TextDecoder().decode(bytes), files)),
}
