/**
 * CIEDE2000 colour difference of two L*a*b* colours (ISO/CIE 11664-6; Sharma, Wu & Dalal 2005, symbols and
 * equation numbers of theirs). Parametric factors k_L = k_C = k_H = 1.
 */
export function deltaE2000(lab1: ArrayLike<number>, lab2: ArrayLike<number>): number {
  const rad = Math.PI / 180
  const deg = 180 / Math.PI
  const L1 = lab1[0]!
  const a1 = lab1[1]!
  const b1 = lab1[2]!
  const L2 = lab2[0]!
  const a2 = lab2[1]!
  const b2 = lab2[2]!
  const Cbar = (Math.hypot(a1, b1) + Math.hypot(a2, b2)) / 2 // (2), (3)
  const G = 0.5 * (1 - Math.sqrt(Cbar ** 7 / (Cbar ** 7 + 25 ** 7))) // (4)
  const a1p = (1 + G) * a1
  const a2p = (1 + G) * a2 // (5)
  const C1p = Math.hypot(a1p, b1)
  const C2p = Math.hypot(a2p, b2) // (6)
  const hue = (b: number, a: number) => (a === 0 && b === 0 ? 0 : (Math.atan2(b, a) * deg + 360) % 360) // (7)
  const h1p = hue(b1, a1p)
  const h2p = hue(b2, a2p)
  const dLp = L2 - L1
  const dCp = C2p - C1p // (8), (9)
  let dhp = C1p * C2p === 0 ? 0 : h2p - h1p // (10)
  if (dhp > 180) dhp -= 360
  else if (dhp < -180) dhp += 360
  const dHp = 2 * Math.sqrt(C1p * C2p) * Math.sin((dhp / 2) * rad) // (11)
  const Lbp = (L1 + L2) / 2
  const Cbp = (C1p + C2p) / 2 // (12), (13)
  let hbp = h1p + h2p // (14)
  if (C1p * C2p !== 0) {
    if (Math.abs(h1p - h2p) <= 180) hbp /= 2
    else hbp = hbp < 360 ? (hbp + 360) / 2 : (hbp - 360) / 2
  }
  const T =
    1 -
    0.17 * Math.cos((hbp - 30) * rad) +
    0.24 * Math.cos(2 * hbp * rad) +
    0.32 * Math.cos((3 * hbp + 6) * rad) -
    0.2 * Math.cos((4 * hbp - 63) * rad) // (15)
  const dTheta = 30 * Math.exp(-(((hbp - 275) / 25) ** 2)) // (16)
  const RC = 2 * Math.sqrt(Cbp ** 7 / (Cbp ** 7 + 25 ** 7)) // (17)
  const SL = 1 + (0.015 * (Lbp - 50) ** 2) / Math.sqrt(20 + (Lbp - 50) ** 2) // (18)
  const SC = 1 + 0.045 * Cbp
  const SH = 1 + 0.015 * Cbp * T // (19), (20)
  const RT = -Math.sin(2 * dTheta * rad) * RC // (21)
  return Math.sqrt((dLp / SL) ** 2 + (dCp / SC) ** 2 + (dHp / SH) ** 2 + RT * (dCp / SC) * (dHp / SH)) // (22)
}
