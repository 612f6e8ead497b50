import { z } from 'zod'
import { MOST_PANELS, MOST_SUNS } from './most-panels'
import { SHAPE, shapeNames, shapeNumber } from './shape-kinds'

const vector = z.tuple([z.number(), z.number(), z.number()])
const radiance = z.tuple([z.number().min(0), z.number().min(0), z.number().min(0)])

/**
 * A rectangle or disc that sends out light on one side, a sun, a ball that sends it out all around or within a cone,
 * or a blocker that keeps light off.
 */
export const panelSchema = z.object({
  name: z.string().max(120),
  /** Panels of one group share a layer where a picture is kept apart by light. */
  group: z.string().trim().min(1).max(120).optional(),
  centre: vector,
  /** Half edges, metres; the light leaves along u × v. */
  u: vector,
  v: vector,
  /** Linear Rec.709 radiance relative to D65. */
  radiance,
  /** Whether the camera sees the panel itself; reflections always do. */
  visible: z.boolean().default(false),
  /**
   * A disc fills the ellipse within the half edges; a ball has the first of them as its radius; a sun stands for the
   * directions in which a disc of that radius is seen from the origin, wherever the point is that it lights.
   */
  shape: z
    .string()
    .refine(name => shapeNumber(name) !== undefined, {
      error: issue => `there is no light shape ${issue.input}; known are ${shapeNames().join(', ')}`,
    })
    .meta({ enum: Object.keys(SHAPE) })
    .optional(),
  /** Of a ball: degrees from its axis, u × v, up to which it shines whole, and from which on it does not. */
  cone: z.tuple([z.number().min(0).max(180), z.number().min(0).max(180)]).optional(),
  /** Share of the half edges over which the light fades out, 0..1. */
  soft: z.number().min(0).max(1).optional(),
  /** Sends out nothing and lets nothing pass: it shapes reflections and shadows. */
  blocks: z.boolean().optional(),
  /** Kelvin from which the colour was made, for showing it again. */
  temperature: z.number().min(1000).max(20_000).optional(),
})

/** A light rig: one environment, panels and blockers, turned together about the vertical. */
export const rigSchema = z.object({
  name: z.string().max(120),
  environment: z.discriminatedUnion('kind', [
    z.object({ kind: z.literal('uniform'), radiance }),
    z.object({
      kind: z.literal('sky'),
      /** Type of ISO 15469. */ type: z.number().int().min(1).max(15).default(12),
      /** Level of the sky: what a level plane gets from it, over π. */ scale: z.number().min(0).default(1),
      /** Of the sun, degrees. */ elevation: z.number().min(0).max(90).default(40),
      azimuth: z.number().default(30),
      /** Irradiance that faces the sun, over π; 0 for no sun. */ sun: z.number().min(0).default(0),
      /** Kelvin of the sky. */ temperature: z.number().min(1000).max(20_000).default(6500),
      ground: z.number().min(0).max(1).default(0.1),
    }),
    z.object({
      kind: z.literal('image'),
      asset: z.string().max(200),
      scale: z.number().min(0).default(1),
      /** Degrees about the vertical, besides the rig's own turn. */ turn: z.number().default(0),
      /** Name of the file it came from. */ file: z.string().max(200).optional(),
    }),
  ]),
  panels: z
    .array(panelSchema)
    .max(MOST_PANELS)
    .refine(panels => panels.filter(p => p.shape === 'sun').length <= MOST_SUNS, {
      error: `a rig has at most ${MOST_SUNS} suns`,
    })
    .default([]),
  /** Degrees about the vertical axis. */
  turn: z.number().default(0),
  /** Factor on everything. */
  dim: z.number().min(0).default(1),
  /** What the camera sees behind the model instead of the environment; lights nothing. */
  backdrop: radiance.optional(),
  /** Made by the artist, not one of the rigs that a project begins with. */
  own: z.boolean().optional(),
})

export type Rig = z.infer<typeof rigSchema>
export type Panel = z.infer<typeof panelSchema>
