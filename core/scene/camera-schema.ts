import { z } from 'zod'

const vector = z.tuple([z.number(), z.number(), z.number()])

/** A pinhole camera, y up. */
export const cameraSchema = z.object({
  name: z.string().max(120).default('Camera'),
  position: vector,
  target: vector,
  /** Vertical field of view, degrees. */
  fov: z.number().min(0.1).max(170).default(30),
})
export type Camera = z.infer<typeof cameraSchema>
