/** Every field by its name; a new one is a file of its own and a line here. */
import { curvature } from './curvature'
import type { Field } from './field'
import { occlusion } from './occlusion'
import { thickness } from './thickness'

export const fields: ReadonlyMap<string, Field> = new Map(Object.entries({ curvature, occlusion, thickness }))
