import { table } from './table'

/**
 * Inputs whose numbers come out of a node as they go in, added to or chosen among, never scaled: a length there is a
 * length in what the node feeds. By category of the standard's nodes; what is not named here carries nothing.
 */
export const CARRIED = table<readonly string[]>({
  constant: ['value'],
  dot: ['in'],
  convert: ['in'],
  extract: ['in'],
  combine2: ['in1', 'in2'],
  combine3: ['in1', 'in2', 'in3'],
  combine4: ['in1', 'in2', 'in3', 'in4'],
  add: ['in1', 'in2'],
  subtract: ['in1', 'in2'],
  min: ['in1', 'in2'],
  max: ['in1', 'in2'],
  modulo: ['in1', 'in2'],
  clamp: ['in', 'low', 'high'],
  absval: ['in'],
  floor: ['in'],
  ceil: ['in'],
  round: ['in'],
  invert: ['in', 'amount'],
  mix: ['bg', 'fg'],
  switch: ['in1', 'in2', 'in3', 'in4', 'in5', 'in6', 'in7', 'in8', 'in9', 'in10'],
  ifgreater: ['in1', 'in2'],
  ifgreatereq: ['in1', 'in2'],
  ifequal: ['in1', 'in2'],
  range: ['outlow', 'outhigh'],
  remap: ['outlow', 'outhigh'],
  noise2d: ['amplitude', 'pivot'],
  noise3d: ['amplitude', 'pivot'],
  fractal2d: ['amplitude'],
  fractal3d: ['amplitude'],
  ramplr: ['valuel', 'valuer'],
  ramptb: ['valuet', 'valueb'],
  ramp4: ['valuetl', 'valuetr', 'valuebl', 'valuebr'],
  splitlr: ['valuel', 'valuer'],
  splittb: ['valuet', 'valueb'],
  checkerboard: ['color1', 'color2'],
  image: ['default'],
  tiledimage: ['default'],
  // a factor is a plain number, see `carries`
  multiply: ['in1', 'in2'],
  divide: ['in1'],
})
