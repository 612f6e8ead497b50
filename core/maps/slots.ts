/** Words of a level of a map: its size, how many tiles it is across, its first entry of a table. */
export const LEVEL = { width: 0, height: 1, across: 2, first: 3, stride: 4 } as const

/** How the numbers of a map are kept: as its file has them. */
export const FORMAT = { byte: 0, sixteen: 1, half: 2, float: 3 } as const

/** A tile: its side, the bits that count pixels along one, the same of all its pixels, and the bits' mask. */
export const TILED = { side: 64, bits: 6, area: 4096, areaBits: 12, mask: 63 } as const
