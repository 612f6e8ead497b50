/** Most panels of a rig. Apart from its schema, whose library the render workers do without. */
export const MOST_PANELS = 16
