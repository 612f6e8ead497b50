import { CONDUCTOR_NAMES } from '../optics/conductors'
import { GLASS_NAMES } from '../optics/glasses'
import type { NodeDefinition } from './definition'

/** Inputs of a ramp or a curve: the places and values of eight points, evenly spread from 0 to 1. */
const pointInputs = (name: string, type: string, at: (x: number) => string): NodeDefinition['inputs'] => [
  { name: 'in', type: 'float', default: '0' },
  { name: 'interpolation', type: 'string', default: 'linear', enum: 'constant,linear,smooth' },
  { name: 'count', type: 'integer', default: '2', uimin: '1', uimax: '8' },
  ...Array.from({ length: 8 }, (_, k) => (k === 0 ? 0 : 1)).flatMap((x, k) => [
    { name: `position${k + 1}`, type: 'float', default: String(x), uisoftmin: '0', uisoftmax: '1' },
    { name: `${name}${k + 1}`, type, default: at(x), uisoftmin: '0', uisoftmax: '1' },
  ]),
]

/** Node definitions of our namespace `wl_`. Lengths are metres like everything without a unit. */
export const ownDefinitions: NodeDefinition[] = [
  {
    name: 'ND_wl_curvature_float',
    node: 'wl_curvature',
    nodegroup: 'geometric',
    inputs: [
      { name: 'radius', type: 'float', default: '0.001', uimin: '0', unittype: 'distance' },
      { name: 'side', type: 'string', default: 'convex', enum: 'convex,concave,both' },
    ],
    outputs: [{ name: 'out', type: 'float' }],
  },
  {
    name: 'ND_wl_occlusion_float',
    node: 'wl_occlusion',
    nodegroup: 'geometric',
    inputs: [
      { name: 'radius', type: 'float', default: '0.01', uimin: '0', unittype: 'distance' },
      { name: 'strength', type: 'float', default: '1', uimin: '0', uisoftmax: '4' },
      { name: 'side', type: 'string', default: 'outward', enum: 'outward,inward' },
    ],
    outputs: [{ name: 'out', type: 'float' }],
  },
  {
    name: 'ND_wl_thickness_float',
    node: 'wl_thickness',
    nodegroup: 'geometric',
    inputs: [{ name: 'radius', type: 'float', default: '0.01', uimin: '0', unittype: 'distance' }],
    outputs: [{ name: 'out', type: 'float' }],
  },
  {
    name: 'ND_wl_rest_position_vector3',
    node: 'wl_rest_position',
    nodegroup: 'geometric',
    inputs: [],
    outputs: [{ name: 'out', type: 'vector3' }],
  },
  {
    name: 'ND_wl_rest_normal_vector3',
    node: 'wl_rest_normal',
    nodegroup: 'geometric',
    inputs: [],
    outputs: [{ name: 'out', type: 'vector3' }],
  },
  {
    name: 'ND_wl_ramp_color3',
    node: 'wl_ramp',
    nodegroup: 'procedural2d',
    inputs: pointInputs('color', 'color3', x => `${x}, ${x}, ${x}`),
    outputs: [{ name: 'out', type: 'color3' }],
  },
  {
    name: 'ND_wl_curve_float',
    node: 'wl_curve',
    nodegroup: 'adjustment',
    inputs: pointInputs('value', 'float', String),
    outputs: [{ name: 'out', type: 'float' }],
  },
  {
    name: 'ND_wl_metal_surfaceshader',
    node: 'wl_metal',
    nodegroup: 'pbr',
    inputs: [
      { name: 'metal', type: 'string', default: 'iron', enum: CONDUCTOR_NAMES.join(',') },
      { name: 'roughness', type: 'float', default: '0.2', uimin: '0', uimax: '1' },
      { name: 'anisotropy', type: 'float', default: '0', uimin: '0', uimax: '1' },
      { name: 'film_thickness', type: 'float', default: '0', uimin: '0', uisoftmax: '600' },
      { name: 'film_ior', type: 'float', default: '2.4', uimin: '1', uisoftmax: '3' },
      { name: 'normal', type: 'vector3', defaultgeomprop: 'Nworld' },
      { name: 'tangent', type: 'vector3', defaultgeomprop: 'Tworld' },
    ],
    outputs: [{ name: 'out', type: 'surfaceshader' }],
  },
  {
    name: 'ND_wl_glass_surfaceshader',
    node: 'wl_glass',
    nodegroup: 'pbr',
    inputs: [
      { name: 'glass', type: 'string', default: GLASS_NAMES[0]!, enum: GLASS_NAMES.join(',') },
      { name: 'roughness', type: 'float', default: '0', uimin: '0', uimax: '1' },
      { name: 'color', type: 'color3', default: '1, 1, 1' },
      { name: 'depth', type: 'float', default: '0', uimin: '0', uisoftmax: '1', unittype: 'distance' },
      { name: 'dispersion', type: 'boolean', default: 'true' },
      { name: 'film_thickness', type: 'float', default: '0', uimin: '0', uisoftmax: '1000' },
      { name: 'film_ior', type: 'float', default: '1.38', uimin: '1', uisoftmax: '3' },
      { name: 'normal', type: 'vector3', defaultgeomprop: 'Nworld' },
    ],
    outputs: [{ name: 'out', type: 'surfaceshader' }],
  },
  {
    name: 'ND_wl_coat_over_surfaceshader',
    node: 'wl_coat_over',
    nodegroup: 'pbr',
    inputs: [
      { name: 'base', type: 'surfaceshader' },
      { name: 'coat_weight', type: 'float', default: '1', uimin: '0', uimax: '1' },
      { name: 'coat_color', type: 'color3', default: '1, 1, 1' },
      { name: 'coat_roughness', type: 'float', default: '0', uimin: '0', uimax: '1' },
      { name: 'coat_ior', type: 'float', default: '1.5', uimin: '1', uimax: '3' },
      { name: 'coat_darkening', type: 'float', default: '1', uimin: '0', uimax: '1' },
      { name: 'normal', type: 'vector3', defaultgeomprop: 'Nworld' },
    ],
    outputs: [{ name: 'out', type: 'surfaceshader' }],
  },
]
