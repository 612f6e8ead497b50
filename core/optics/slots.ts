/** Words of `film`, the question and answer about a thin film (`thin-film.ts`). */
export const FILM = {
  /** Cosine of incidence. */
  cosine: 0,
  /** Index of the film; n and k of the substrate: all relative to the medium of incidence. */
  index: 1,
  n: 2,
  k: 3,
  /** Optical way 2·n·d of the film, nm, with its absolute index. */
  way: 4,
  /** Wavelength, nm. */
  wavelength: 5,
  /** Answers: reflectance at that wavelength; mean Rec.709 reflectance under D65. */
  reflectance: 6,
  mean: 7,
  /** What the substrate reflects without the film, by its n and k. */
  bare: 10,
  size: 11,
} as const
