/** Edges that the longest side of a part is cut into where nobody says how long they are. */
const ACROSS = 128

/** Edge that a part is cut to where nobody says, as far as memory allows. @param extent its longest side, metres */
export const usualEdge = (extent: number): number => extent / ACROSS
