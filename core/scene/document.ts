import { MOST_BOUNCES, USUAL_BOUNCES } from './bounces'
import { z } from 'zod'
import { rigSchema } from './rig'
import { MOST_LEVELS } from '../mesh/subdivision/levels'
import { cameraSchema } from './camera-schema'

/** A part of the model and what it wears. */
export const partSchema = z.object({
  /** Name of the part in the model. */
  name: z.string().max(200),
  /** Key of a material. */
  material: z.string().max(120),
  hidden: z.boolean().default(false),
  /** Which of glasses in each other counts: the higher one; among equals the one entered last. */
  priority: z.number().int().min(0).max(9).optional(),
  /** Own values for what the material publishes: texts by path of the node, `#`, name of the input. */
  values: z.record(z.string().max(400), z.string().max(400)).optional(),
  /** Steps of subdivision before it is displaced, and the angle from which on edges stay sharp, degrees. */
  subdivide: z
    .object({ levels: z.number().int().min(1).max(MOST_LEVELS), crease: z.number().min(0).max(180).optional() })
    .optional(),
  /** Longest edge of its triangles where its material displaces it, metres; by its size when left out. */
  edge: z.number().min(1e-6).max(1e3).optional(),
})

/**
 * A scene: model, parts, materials, light rigs and cameras. In files, `model` and the materials' `document` are
 * paths relative to the scene; in a project they are content hashes of assets and keys of material documents.
 */
export const sceneSchema = z.object({
  format: z.literal('wavelume-scene'),
  version: z.literal(1),
  model: z.string().max(400),
  parts: z.array(partSchema).max(100_000),
  materials: z
    .record(
      z.string().max(120),
      z.object({
        /** Path of the MaterialX document. */
        document: z.string().max(400).optional(),
        /** Name of the surfacematerial in it; the first one when left out. */
        material: z.string().max(120).optional(),
      }),
    )
    .default({}),
  rigs: z.array(rigSchema).min(1).max(32),
  /** Name of the rig in use. */
  lights: z.string().max(120),
  cameras: z.array(cameraSchema).max(64).default([]),
  /** Bounces after which a path ends: nets for what roulette has not ended; see `bounces.ts`. */
  maxOpaque: z.number().int().min(0).max(MOST_BOUNCES).default(USUAL_BOUNCES),
  maxSpecular: z.number().int().min(0).max(MOST_BOUNCES).default(USUAL_BOUNCES),
  /**
   * Most that one path may bring after it has scattered, radiance of its brightest component; all of it when left
   * out. Holding fireflies takes light away.
   */
  clamp: z.number().min(0).max(1e6).optional(),
  /** EV, for display only. */
  exposure: z.number().min(-20).max(20).default(0),
  /** Seconds at which materials that change over time are shown. */
  time: z.number().min(-1e6).max(1e6).optional(),
  /** Line A–A of the cross-section on the model, world space. */
  section: z
    .tuple([z.tuple([z.number(), z.number(), z.number()]), z.tuple([z.number(), z.number(), z.number()])])
    .optional(),
})

export type SceneDocument = z.infer<typeof sceneSchema>
