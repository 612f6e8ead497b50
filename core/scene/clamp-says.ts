/** What the header of a picture says of a scene's clamp. */
export const clampSays = (clamp: number | undefined): string =>
  clamp ? `${clamp}, what the camera sees directly excepted` : 'none'
