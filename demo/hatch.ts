import type { Model } from '../core/mesh/model'
import type { Element } from '../core/network/document'
import { joined, lathe, placed, rounded, tube } from '../core/mesh/build/lathe'
import { around, bolt, box, coloured, facing, ring } from '../core/mesh/build/solids'
import { material, network } from './network-text'

const UP = 0.62

/**
 * Cormorant hatch: the hatch of a salvage bell in its plate, with a port, a gauge behind glass and a hand wheel.
 * Metres; the plate is 1.5 wide.
 */
export function hatchModel(): Model {
  const at = [0, UP, 0] as const
  const plate = box('Plate', [-0.75, -0.1, -0.05], [0.75, 1.34, 0])
  const rim = facing(
    lathe(
      'Rim',
      rounded(
        [
          [0.44, -0.02],
          [0.52, -0.02],
          [0.52, 0.05],
          [0.47, 0.07],
          [0.44, 0.05],
          [0.44, -0.02],
        ],
        0.008,
      ),
      160,
    ),
    at,
  )
  const door = facing(
    lathe(
      'Door',
      rounded(
        [
          [0, 0.02],
          [0.43, 0.02],
          [0.43, 0.075],
          [0.39, 0.085],
          [0.2, 0.115],
          [0, 0.125],
        ],
        0.01,
      ),
      160,
    ),
    at,
  )
  const gasket = facing(ring('Gasket', 0.434, 0.009, 0.062, 160), at)
  const bolts = facing(around('Bolts', bolt(0.021), 0.485, 20, 0.06), at)
  const port: [number, number, number] = [0, UP + 0.22, 0.086]
  const collar = facing(
    lathe(
      'Collar',
      rounded(
        [
          [0.088, -0.02],
          [0.12, -0.02],
          [0.12, 0.032],
          [0.1, 0.045],
          [0.088, 0.03],
          [0.088, -0.02],
        ],
        0.004,
      ),
      96,
    ),
    port,
  )
  const glass = facing(
    lathe(
      'Port glass',
      rounded(
        [
          [0, 0.008],
          [0.0875, 0.008],
          [0.0875, 0.026],
          [0, 0.026],
        ],
        0.002,
      ),
      96,
    ),
    port,
  )
  // the gauge's face: a scale in vertex colours, dense enough to show its marks
  const disc = lathe(
    'Gauge',
    Array.from({ length: 40 }, (_, i) => [0.086 * (1 - i / 39), 0.004] as const),
    240,
  )
  const face = facing(
    coloured(disc, (x, _y, z) => {
      const r = Math.hypot(x, z)
      const a = ((Math.atan2(x, -z) / Math.PI) * 180 + 360) % 360
      const from = (a + 140) % 360
      if (r > 0.062 && r < 0.076 && from < 280 && from % 20 < 3) return [0.02, 0.02, 0.02]
      if (r > 0.054 && r < 0.06 && from > 215 && from < 280) return [0.55, 0.03, 0.02]
      return (Math.abs(((from - 96 + 180) % 360) - 180) < 2.6 && r < 0.066) || r < 0.008
        ? [0.03, 0.03, 0.03]
        : [0.82, 0.8, 0.73]
    }),
    port,
  )
  const hub: [number, number, number] = [0, UP - 0.13, 0.1]
  const spokes = [0, 1, 2].map(i => {
    const a = Math.PI * (0.5 + (2 * i) / 3)
    return tube(
      '',
      [
        [0, 0, 0.05],
        [0.07 * Math.cos(a), 0.07 * Math.sin(a), 0.055],
        [0.14 * Math.cos(a), 0.14 * Math.sin(a), 0.06],
      ],
      0.009,
      16,
    )
  })
  const shifted = (p: ReturnType<typeof tube>) => placed(p, [1, 0, 0, 0, 1, 0, 0, 0, 1, ...hub])
  const wheel = joined('Hand wheel', [
    facing(ring('', 0.14, 0.013, 0.06, 120), hub),
    facing(
      lathe(
        '',
        rounded(
          [
            [0, -0.01],
            [0.03, -0.01],
            [0.024, 0.075],
            [0, 0.08],
          ],
          0.004,
        ),
        48,
      ),
      hub,
    ),
    ...spokes.map(shifted),
  ])
  const hinge = (y: number) =>
    joined('', [
      box('', [-0.66, y - 0.05, 0], [-0.5, y + 0.05, 0.045]),
      tube(
        '',
        [
          [-0.55, y - 0.07, 0.05],
          [-0.55, y, 0.05],
          [-0.55, y + 0.07, 0.05],
        ],
        0.028,
        24,
      ),
    ])
  return {
    parts: [
      plate,
      rim,
      door,
      gasket,
      bolts,
      collar,
      glass,
      face,
      wheel,
      joined('Hinges', [hinge(UP - 0.22), hinge(UP + 0.22)]),
    ],
  }
}

/** Cones with craters in cells of 3 cm, in colonies low down: the surface itself, not its shading. */
const barnacles = `
  <divide name="shells_at" type="vector3" xpos="7" ypos="9">
    <input name="in1" type="vector3" nodename="position"/>
    <input name="in2" type="float" value="0.032" unit="meter" unittype="distance"/></divide>
  <worleynoise3d name="shells" type="float" xpos="8" ypos="9">
    <input name="position" type="vector3" nodename="shells_at"/></worleynoise3d>
  <wl_curve name="cone" type="float" xpos="9" ypos="9"><input name="in" type="float" nodename="shells"/>
    <input name="interpolation" type="string" value="smooth"/><input name="count" type="integer" value="4"/>
    <input name="position1" type="float" value="0.1"/><input name="value1" type="float" value="0.3"/>
    <input name="position2" type="float" value="0.19"/><input name="value2" type="float" value="1"/>
    <input name="position3" type="float" value="0.24"/><input name="value3" type="float" value="0.95"/>
    <input name="position4" type="float" value="0.5"/><input name="value4" type="float" value="0"/></wl_curve>
  <wl_curve name="colony" type="float" xpos="9" ypos="10.2"><input name="in" type="float" nodename="tide"/>
    <input name="interpolation" type="string" value="smooth"/><input name="count" type="integer" value="2"/>
    <input name="position1" type="float" value="0.16"/><input name="value1" type="float" value="1"/>
    <input name="position2" type="float" value="0.3"/><input name="value2" type="float" value="0"/></wl_curve>
  <multiply name="grown" type="float" xpos="10" ypos="9"><input name="in1" type="float" nodename="cone"/>
    <input name="in2" type="float" nodename="colony"/></multiply>
  <smoothstep name="limed" type="float" xpos="10" ypos="7.8"><input name="in" type="float" nodename="grown"/>
    <input name="low" type="float" value="0.1"/><input name="high" type="float" value="0.25"/></smoothstep>
  <open_pbr_surface name="shell" type="surfaceshader" wl_title="Barnacles" wl_thickness="0.003" xpos="10" ypos="6">
    <input name="base_color" type="color3" value="0.5, 0.47, 0.41"/>
    <input name="specular_roughness" type="float" value="0.7"/></open_pbr_surface>
  <mix name="overgrown" type="surfaceshader" wl_title="Overgrown" xpos="11" ypos="1.2">
    <input name="fg" type="surfaceshader" nodename="shell"/><input name="bg" type="surfaceshader" nodename="flaking"/>
    <input name="mix" type="float" nodename="limed"/></mix>
  <displacement name="standing" type="displacementshader" xpos="11" ypos="9">
    <input name="displacement" type="float" nodename="grown"/><input name="scale" type="float" value="0.011"/>
  </displacement>`

/**
 * Marine paint over primer over steel, flaking in plates from where it rusts, with relief of its own; the sea
 * leaves a film of water below.
 * @param grown whether barnacles stand on it
 */
const marinePaint = (colour: string, grown = false): Element =>
  network(`${grown ? barnacles : ''}
  <position name="position" type="vector3" xpos="0" ypos="1"/>
  <divide name="flakes_at" type="vector3" xpos="1" ypos="0">
    <input name="in1" type="vector3" nodename="position"/>
    <input name="in2" type="float" value="0.11" unit="meter" unittype="distance"/></divide>
  <divide name="fine_at" type="vector3" xpos="1" ypos="1.2">
    <input name="in1" type="vector3" nodename="position"/>
    <input name="in2" type="float" value="0.012" unit="meter" unittype="distance"/></divide>
  <fractal3d name="large" type="float" xpos="2" ypos="0">
    <input name="position" type="vector3" nodename="flakes_at"/>
    <input name="octaves" type="integer" value="5"/><input name="amplitude" type="float" value="0.55"/></fractal3d>
  <fractal3d name="fine" type="float" xpos="2" ypos="1.2">
    <input name="position" type="vector3" nodename="fine_at"/><input name="octaves" type="integer" value="4"/>
    <input name="amplitude" type="float" value="0.5"/></fractal3d>
  <wl_curvature name="edges" type="float" xpos="2" ypos="2.4">
    <input name="radius" type="float" value="9" unit="millimeter" unittype="distance"/>
    <input name="side" type="string" value="convex"/></wl_curvature>
  <multiply name="edge_share" type="float" xpos="3" ypos="2.4">
    <input name="in1" type="float" nodename="edges"/><input name="in2" type="float" value="0.4"/></multiply>
  <add name="attack" type="float" xpos="4" ypos="1.2"><input name="in1" type="float" nodename="large"/>
    <input name="in2" type="float" nodename="edge_share"/></add>
  <smoothstep name="flaked" type="float" xpos="5" ypos="0"><input name="in" type="float" nodename="attack"/>
    <input name="low" type="float" value="0.2"/><input name="high" type="float" value="0.215"/></smoothstep>
  <smoothstep name="primed_rim" type="float" xpos="5" ypos="1.2">
    <input name="in" type="float" nodename="attack"/><input name="low" type="float" value="0.155"/>
    <input name="high" type="float" value="0.165"/></smoothstep>
  <wl_ramp name="rust_colour" type="color3" xpos="4" ypos="3.6">
    <input name="in" type="float" nodename="fine"/><input name="count" type="integer" value="3"/>
    <input name="position1" type="float" value="-0.4"/>
    <input name="color1" type="color3" value="0.05, 0.022, 0.014"/>
    <input name="position2" type="float" value="0.05"/>
    <input name="color2" type="color3" value="0.2, 0.062, 0.022"/>
    <input name="position3" type="float" value="0.45"/>
    <input name="color3" type="color3" value="0.42, 0.17, 0.055"/></wl_ramp>
  <bump name="pitted" type="vector3" xpos="5" ypos="3.6"><input name="height" type="float" nodename="fine"/>
    <input name="scale" type="float" value="0.06"/></bump>
  <bump name="rippled" type="vector3" xpos="5" ypos="4.8">
    <input name="height" type="float" nodename="large"/><input name="scale" type="float" value="0.09"/></bump>
  <open_pbr_surface name="rust" type="surfaceshader" wl_title="Rusted steel, raw stock" xpos="6" ypos="3.6">
    <input name="base_color" type="color3" nodename="rust_colour"/>
    <input name="specular_roughness" type="float" value="0.82"/>
    <input name="geometry_normal" type="vector3" nodename="pitted"/></open_pbr_surface>
  <open_pbr_surface name="primer" type="surfaceshader" wl_title="Primer" wl_thickness="6e-05" xpos="6"
  ypos="2.4"><input name="base_color" type="color3" value="0.36, 0.1, 0.055"/>
    <input name="specular_roughness" type="float" value="0.6"/></open_pbr_surface>
  <open_pbr_surface name="paint" type="surfaceshader" wl_title="Marine paint" wl_thickness="0.00025"
  xpos="6" ypos="1.2"><input name="base_color" type="color3" value="${colour}" wl_published="Paint"/>
    <input name="specular_roughness" type="float" value="0.34"/>
    <input name="geometry_normal" type="vector3" nodename="rippled"/></open_pbr_surface>
  <mix name="primed" type="surfaceshader" xpos="7" ypos="2.4">
    <input name="fg" type="surfaceshader" nodename="primer"/>
    <input name="bg" type="surfaceshader" nodename="rust"/><input name="mix" type="float" value="1"/></mix>
  <mix name="painted" type="surfaceshader" xpos="8" ypos="1.2">
    <input name="fg" type="surfaceshader" nodename="paint"/>
    <input name="bg" type="surfaceshader" nodename="primed"/><input name="mix" type="float" value="1"/></mix>
  <mix name="lifted" type="surfaceshader" wl_title="Lifted paint" xpos="9" ypos="0">
    <input name="fg" type="surfaceshader" nodename="primed"/>
    <input name="bg" type="surfaceshader" nodename="painted"/>
    <input name="mix" type="float" nodename="primed_rim"/></mix>
  <mix name="flaking" type="surfaceshader" wl_title="Flaked to the steel" xpos="10" ypos="0">
    <input name="fg" type="surfaceshader" nodename="rust"/>
    <input name="bg" type="surfaceshader" nodename="lifted"/><input name="mix" type="float" nodename="flaked"/></mix>
  <separate3 name="place" type="multioutput" xpos="6" ypos="6">
    <input name="in" type="vector3" nodename="position"/></separate3>
  <multiply name="runs" type="float" xpos="7" ypos="7.2"><input name="in1" type="float" nodename="large"/>
    <input name="in2" type="float" value="0.5"/></multiply>
  <add name="tide" type="float" xpos="8" ypos="6">
    <input name="in1" type="float" nodename="place" output="outy"/>
    <input name="in2" type="float" nodename="runs"/></add>
  <wl_curve name="wet" type="float" xpos="9" ypos="6"><input name="in" type="float" nodename="tide"/>
    <input name="interpolation" type="string" value="smooth"/><input name="count" type="integer" value="2"/>
    <input name="position1" type="float" value="0.28"/><input name="value1" type="float" value="0.95"/>
    <input name="position2" type="float" value="0.42"/><input name="value2" type="float" value="0"/></wl_curve>
  <wl_coat_over name="film" type="surfaceshader" wl_title="Wet film" wl_thickness="5e-05"
  wl_reference_thickness="5e-05" xpos="11" ypos="0">
    <input name="base" type="surfaceshader" nodename="${grown ? 'overgrown' : 'flaking'}"/>
    <input name="coat_weight" type="float" nodename="wet"/>
    <input name="coat_color" type="color3" value="0.93, 0.95, 0.94"/>
    <input name="coat_roughness" type="float" value="0.02"/><input name="coat_ior" type="float" value="1.33"/>
  </wl_coat_over>
  ${material('film', 'marine_paint', 12, grown ? 'standing' : undefined)}`)

const surface = (title: string, inputs: string, before = '') =>
  network(
    `${before}<open_pbr_surface name="stock" type="surfaceshader" wl_title="${title}" xpos="2" ypos="0">
      ${inputs}</open_pbr_surface>${material('stock')}`,
  )

export function hatchMaterials(): Record<string, Element> {
  return {
    'Marine paint': marinePaint('0.09, 0.16, 0.2'),
    'Overgrown paint': marinePaint('0.09, 0.16, 0.2', true),
    'Gasket rubber': surface(
      'Rubber, raw stock',
      `<input name="base_color" type="color3" value="0.018, 0.018, 0.018"/>
        <input name="specular_roughness" type="float" value="0.6"/>
        <input name="specular_ior" type="float" value="1.52"/>`,
    ),
    'Bronze': surface(
      'Bronze, raw stock',
      `<input name="base_color" type="color3" value="0.72, 0.48, 0.26"/>
        <input name="base_metalness" type="float" value="1"/>
        <input name="specular_color" type="color3" value="0.95, 0.85, 0.7"/>
        <input name="specular_roughness" type="float" value="0.3"/>`,
    ),
    'Port glass': surface(
      'Glass, raw stock',
      `<input name="transmission_weight" type="float" value="1"/>
        <input name="specular_roughness" type="float" value="0"/>
        <input name="specular_ior" type="float" value="1.5"/>
        <input name="transmission_color" type="color3" value="0.8, 0.92, 0.9"/>
        <input name="transmission_depth" type="float" value="0.03"/>`,
    ),
    'Gauge face': surface(
      'Enamelled face',
      `<input name="base_color" type="color3" nodename="printed"/>
        <input name="specular_roughness" type="float" value="0.35"/>`,
      '<geomcolor name="printed" type="color3" xpos="0" ypos="0"/>',
    ),
    'Worn bronze': network(`
      <position name="position" type="vector3" xpos="0" ypos="0"/>
      <divide name="at_scale" type="vector3" xpos="1" ypos="0">
      <input name="in1" type="vector3" nodename="position"/>
      <input name="in2" type="float" value="0.03" unit="meter" unittype="distance"/></divide>
      <fractal3d name="touched" type="float" xpos="2" ypos="0">
      <input name="position" type="vector3" nodename="at_scale"/>
      <input name="octaves" type="integer" value="3"/><input name="amplitude" type="float" value="0.5"/></fractal3d>
      <range name="polish" type="float" xpos="3" ypos="0"><input name="in" type="float" nodename="touched"/>
      <input name="inlow" type="float" value="-0.4"/><input name="inhigh" type="float" value="0.4"/>
      <input name="outlow" type="float" value="0.16"/><input name="outhigh" type="float" value="0.5"/>
      <input name="doclamp" type="boolean" value="true"/></range>
      <open_pbr_surface name="stock" type="surfaceshader" wl_title="Bronze, raw stock" xpos="4" ypos="0">
      <input name="base_color" type="color3" value="0.7, 0.44, 0.22"/>
      <input name="base_metalness" type="float" value="1"/>
      <input name="specular_color" type="color3" value="0.95, 0.85, 0.7"/>
      <input name="specular_roughness" type="float" nodename="polish"/></open_pbr_surface>${material('stock')}`),
  }
}
