/** Nodes that ask for the shape around the point, within a radius. */
export const SHAPE_NODES: ReadonlySet<string> = new Set(['wl_curvature', 'wl_occlusion', 'wl_thickness'])
