import { z } from 'zod'
import type { Element } from '../core/network/document'
import { documentSchema } from '../core/network/document-schema'
import { cameraSchema } from '../core/scene/camera-schema'
import { sceneSchema } from '../core/scene/document'
import { sequenceSchema } from './sequence'

/** Largest number of a version: what an integer of the database holds. */
export const MOST_VERSIONS = 2 ** 31 - 1
/** Content hash of an asset: SHA-256 in hexadecimal. */
export const hashSchema = z.string().regex(/^[0-9a-f]{64}$/, 'not a content hash')
export const projectName = z.string().trim().min(1, 'a project needs a name').max(120)

/** Everything a version keeps. */
export const stateSchema = z.object({
  scene: sceneSchema,
  materials: z.record(z.string().min(1).max(120), documentSchema),
})
export type ProjectState = { scene: z.infer<typeof sceneSchema>; materials: Record<string, Element> }

export const createProjectSchema = z.object({ name: projectName, state: stateSchema })

/** A save states the version it began from; one on top of a newer version is refused, and both are kept. */
export const saveSchema = z.object({
  base: z.number().int().min(0).max(MOST_VERSIONS),
  note: z.string().max(500).default(''),
  thumbnail: hashSchema.nullable().default(null),
  state: stateSchema,
})
/** A tab's name for itself; `earlier` for what was kept before tabs had names. */
export const tabSchema = z.string().regex(/^[a-z0-9-]{1,64}$/, 'not the name of a tab')
/** Unsaved work of a tab, the version it began from, and its browser's name for itself. */
export const draftSchema = z.object({
  person: z.string().regex(/^[a-z0-9-]{0,64}$/, 'not the name of a browser'),
  base: z.number().int().min(0).max(MOST_VERSIONS),
  state: stateSchema,
})
export type NewDraft = { person: string; base: number; state: ProjectState }
export const renameSchema = z.object({ name: projectName })

export const proofSchema = z.object({
  kind: z.enum(['proof', 'reference']),
  name: z.string().max(120),
  width: z.number().int().min(1).max(16384),
  height: z.number().int().min(1).max(16384),
  /** Asset: float EXR of a proof, the file itself of a reference. */
  picture: hashSchema,
  /** Asset: small PNG. */
  thumbnail: hashSchema.nullable(),
  settings: z.record(z.string().max(60), z.unknown()),
})
export type NewProof = z.infer<typeof proofSchema>
/** What may be said of a proof once it is kept; the picture itself never changes. */
export const proofEditSchema = z
  .object({
    name: z.string().max(120).optional(),
    note: z.string().max(2000).optional(),
    star: z.boolean().optional(),
  })
  .refine(e => Object.keys(e).length > 0, 'nothing to change')
export type ProofEdit = z.infer<typeof proofEditSchema>
export interface Proof extends NewProof {
  id: string
  number: number
  note: string
  star: boolean
  created: string
}

/** AOVs that a frame may carry; the names are those of `render --aov`. */
export const FRAME_AOVS = [
  'albedo',
  'normal',
  'position',
  'depth',
  'part',
  'material',
  'lights',
  'lobes',
  'cost',
] as const
/** Most pixels of a frame: its sums are held in memory and kept between passes. */
const MOST_PIXELS = 4096 * 2304
export const frameSchema = z.object({
  name: z.string().trim().min(1, 'a frame needs a name').max(120),
  settings: z
    .object({
      width: z.number().int().min(16).max(8192),
      height: z.number().int().min(16).max(8192),
      passes: z.number('how many').int('a whole number').min(1, 'at least 1').max(65536, 'at most 65536'),
      seed: z.number().int().min(-2147483648).max(2147483647).default(0),
      aov: z.array(z.enum(FRAME_AOVS)).max(FRAME_AOVS.length).default([]),
      camera: cameraSchema,
    })
    .refine(s => s.width * s.height <= MOST_PIXELS, 'a frame has at most 4096 × 2304 pixels'),
  state: stateSchema,
})
export type NewFrame = z.infer<typeof frameSchema>
/** A frame, or a sequence of which it is the first, at the first time. */
export const newFramesSchema = frameSchema.extend({ sequence: sequenceSchema.optional() })
export type NewFrames = z.infer<typeof newFramesSchema>
export type FrameStatus = 'queued' | 'running' | 'done' | 'failed' | 'stopped'
export interface Frame {
  id: string
  project: string
  projectName: string
  name: string
  settings: NewFrame['settings']
  lights: string
  status: FrameStatus
  /** Passes that are finished. */ passes: number
  message: string
  seconds: number
  picture: string | null
  thumbnail: string | null
  created: string
}
/** The queue as it stands, and whether anything works on it. */
export interface FrameList {
  frames: Frame[]
  workers: number
}

export interface ProjectSummary {
  id: string
  name: string
  head: number
  created: string
  updated: string
  thumbnail: string | null
  /** How far its still is, passes, while a worker is to make one. */
  still: { passes: number; of: number } | null
}
/** Materials that use a specimen of the library, by its key. */
export type SpecimenUses = Record<string, { project: string; name: string; material: string }[]>
export interface Project {
  id: string
  name: string
  head: number
  state: ProjectState
}
export interface VersionSummary {
  number: number
  parent: number
  note: string
  aside: boolean
  thumbnail: string | null
  created: string
}
/** Unsaved work without what it is: whose, from which version, and from when. */
export interface DraftSummary {
  tab: string
  person: string
  base: number
  updated: string
}
export interface Draft extends DraftSummary {
  state: ProjectState
}
/** Answer to a refused save. */
export interface SaveConflict {
  head: number
  kept: number
}
