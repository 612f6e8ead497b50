import type { Model } from '../../mesh/model'
import type { Panel } from '../../scene/rig'
import type { TranslatedMaterial } from './translated'

/** What came with a model. */
export interface ModelFiles {
  model: Model
  /** Number of each part's material; −1 for none. */
  materialOf: number[]
  materials: TranslatedMaterial[]
  /** Whether the format says that its unit is the metre. */
  unitKnown: boolean
  /** What was not found or has no equivalent, in words. */
  missing: string[]
  /** Lights that came with the model. */
  lights: Panel[]
}

/** A format of models: a file in this folder and a line in `index.ts`. */
export interface ModelFormat {
  /** Ending of its files; `ending.ts` has those that pages take. */
  ending: string
  /**
   * @param bytes of the model itself
   * @param files all that came together, by name without folders
   * @throws FormatError where it cannot be read
   */
  read(bytes: Uint8Array, files: ReadonlyMap<string, Uint8Array>): Promise<ModelFiles> | ModelFiles
}
