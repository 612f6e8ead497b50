import { z } from 'zod'

const vector = z.tuple([z.number(), z.number(), z.number()])

/** A camera, y up: a pinhole unless it has an f-number. */
export const cameraSchema = z.object({
  name: z.string().max(120).default('Camera'),
  position: vector,
  target: vector,
  /** Vertical field of view, degrees. */
  fov: z.number().min(0.1).max(170).default(30),
  /** Height of the sensor, mm: with the field of view it says the focal length. */
  sensor: z.number().min(1).max(200).optional(),
  /** f-number of the aperture; 0 or none for a pinhole. */
  fNumber: z.number().min(0).max(128).optional(),
  /** Distance along the axis that is sharp, metres; none for the target's. */
  focus: z.number().positive().max(1e6).optional(),
  /** Blades of the aperture; fewer than 3 for a round one. */
  blades: z.number().int().min(0).max(16).optional(),
})
export type Camera = z.infer<typeof cameraSchema>
