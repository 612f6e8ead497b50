/** Words that artists look a node up by, and the node that is meant, or the nearest where there is none yet. */
export interface Synonym {
  words: string
  nodes: readonly string[]
  /** What is not there yet, where the nodes are only the nearest. */
  missing?: string
}
export const SYNONYMS: readonly Synonym[] = [
  { words: 'levels remap fit', nodes: ['range', 'remap'] },
  { words: 'relief height bump', nodes: ['bump', 'heighttonormal', 'displacement'] },
  { words: 'edge wear edges convexity', nodes: ['wl_curvature'] },
  { words: 'dirt occlusion cavity', nodes: ['wl_occlusion'] },
  { words: 'thin walls', nodes: ['wl_thickness'] },
  { words: 'vertex colour', nodes: ['geomcolor'] },
  { words: 'gradient stops', nodes: ['wl_ramp', 'ramplr', 'ramptb'] },
  { words: 'radial', nodes: ['circle'], missing: 'a radial ramp is not there yet' },
  { words: 'voronoi cells', nodes: ['worleynoise2d', 'worleynoise3d', 'cellnoise2d', 'cellnoise3d'] },
  { words: 'tiling repeat placement uv transform', nodes: ['place2d', 'tiledimage'] },
  { words: 'uv coordinates', nodes: ['texcoord'] },
  { words: 'texture picture bitmap map', nodes: ['image', 'tiledimage'] },
  { words: 'slope', nodes: ['normal', 'dotproduct'], missing: 'slope is not there yet' },
  { words: 'fresnel falloff rim', nodes: ['facingratio', 'generalized_schlick_bsdf'] },
  { words: 'hue saturation tint', nodes: ['hsvadjust', 'rgbtohsv', 'saturate'] },
  { words: 'blend lerp', nodes: ['mix'] },
  { words: 'gloss glossiness', nodes: ['invert'] },
  { words: 'curve tone', nodes: ['wl_curve'] },
  { words: 'random variation', nodes: ['randomfloat'] },
  { words: 'six sides box projection', nodes: ['triplanarprojection'] },
  { words: 'glass', nodes: ['wl_glass', 'dielectric_bsdf'] },
  { words: 'metal', nodes: ['wl_metal', 'conductor_bsdf'] },
  { words: 'coat varnish clear', nodes: ['wl_coat_over'] },
  { words: 'fabric velvet', nodes: ['sheen_bsdf'] },
  { words: 'emission glow lamp', nodes: ['uniform_edf', 'conical_edf'] },
  { words: 'skin wax milk', nodes: ['subsurface_bsdf'] },
]
