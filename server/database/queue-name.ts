/** Name of the queue of frames. */
export const FRAMES = 'frames'
