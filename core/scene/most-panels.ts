/** Most panels of a rig, and suns among them. Apart from its schema, whose library the render workers do without. */
export const MOST_PANELS = 4096
export const MOST_SUNS = 16
