/** How the index of a clear material depends on the wavelength. */

/** Wavelengths of the Fraunhofer lines d, F and C, nm (ISO 7944 for d; CIE/ISO practice for the Abbe number). */
export const LINE_D = 587.56
export const LINE_F = 486.13
export const LINE_C = 656.27

/**
 * Second coefficient of Cauchy's formula n = A + B/λ² for a material of index n_d and Abbe number V_d = (n_d −
 * 1)/(n_F − n_C) (OpenPBR Surface 1.1, "Dispersion").
 * @returns B, nm²
 */
export function cauchyB(nd: number, abbe: number): number {
  return (nd - 1) / (abbe * (1 / (LINE_F * LINE_F) - 1 / (LINE_C * LINE_C)))
}

/** Cauchy's formula about the d line. @param B nm² @param wavelength nm */
export function cauchyIndex(nd: number, B: number, wavelength: number): number {
  return nd + B * (1 / (wavelength * wavelength) - 1 / (LINE_D * LINE_D))
}

/**
 * Sellmeier's formula n² = 1 + Σ Bᵢλ²/(λ² − Cᵢ).
 * @param B three numbers; C three numbers, µm²
 * @param wavelength nm
 */
export function sellmeierIndex(B: readonly number[], C: readonly number[], wavelength: number): number {
  const l2 = (wavelength / 1000) ** 2
  return Math.sqrt(1 + B.reduce((s, b, i) => s + (b * l2) / (l2 - C[i]!), 0))
}

/** n_d and V_d of an index that depends on the wavelength (nm). */
export function abbeOf(index: (wavelength: number) => number): { nd: number; abbe: number } {
  const nd = index(LINE_D)
  return { nd, abbe: (nd - 1) / (index(LINE_F) - index(LINE_C)) }
}
