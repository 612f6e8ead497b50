import { z } from 'zod'

const vector = z.tuple([z.number(), z.number(), z.number()])
const radiance = z.tuple([z.number().min(0), z.number().min(0), z.number().min(0)])

/** A rectangle that sends out light on one side. */
export const panelSchema = z.object({
  name: z.string().max(120),
  centre: vector,
  /** Half edges, metres; the light leaves along u × v. */
  u: vector,
  v: vector,
  /** Linear Rec.709 radiance relative to D65. */
  radiance,
  /** Whether the camera sees the panel itself; reflections always do. */
  visible: z.boolean().default(false),
})

/** A light rig: one environment and rectangular panels, turned together about the vertical. */
export const rigSchema = z.object({
  name: z.string().max(120),
  environment: z.discriminatedUnion('kind', [
    z.object({ kind: z.literal('uniform'), radiance }),
    z.object({ kind: z.literal('image'), asset: z.string().max(200), scale: z.number().min(0).default(1), /** Degrees about the vertical, besides the rig's own turn. */ turn: z.number().default(0), /** Name of the file it came from. */ file: z.string().max(200).optional() }),
  ]),
  panels: z.array(panelSchema).max(16).default([]),
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
