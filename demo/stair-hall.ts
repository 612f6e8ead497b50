import type { Model } from '../core/mesh/model'
import type { Element } from '../core/network/document'
import { joined, tube } from '../core/mesh/build/lathe'
import { box } from '../core/mesh/build/solids'
import { material, network } from './network-text'

const STEPS = 9
const RISE = 0.17
const TREAD = 0.29
const WIDTH = 1.15

/**
 * Tidewell stair hall: a flight along the back wall, floors in one terrazzo with three finishes. Metres; the hall
 * is a little over four wide.
 */
export function stairHallModel(): Model {
  const x0 = -1.15
  const top = STEPS * RISE
  const treads = Array.from({ length: STEPS }, (_, i) =>
    box(
      '',
      [x0 + i * TREAD, i * RISE + RISE - 0.035, -0.02],
      [x0 + (i + 1) * TREAD + 0.025, (i + 1) * RISE, WIDTH],
    ),
  )
  const risers = Array.from({ length: STEPS }, (_, i) =>
    box('', [x0 + i * TREAD + 0.02, 0, 0], [x0 + (i + 1) * TREAD + 0.02, (i + 1) * RISE - 0.035, WIDTH - 0.03]),
  )
  const foot = (i: number): [number, number, number] => [x0 + (i + 0.55) * TREAD, (i + 1) * RISE, WIDTH - 0.07]
  const balusters = Array.from({ length: STEPS }, (_, i) => {
    const [x, y, z] = foot(i)
    return tube(
      '',
      [
        [x, y, z],
        [x, y + 0.45, z],
        [x, y + 0.87, z],
      ],
      0.009,
      12,
    )
  })
  const rail = Array.from({ length: 61 }, (_, i): [number, number, number] => {
    const t = -0.9 + (i / 60) * (STEPS + 0.9)
    const [x, y, z] = foot(t)
    return [x, Math.max(0.98, y + 0.9), z]
  })
  return {
    parts: [
      box('Floor', [-2.5, -0.05, 0.25], [2.5, 0, 3.4]),
      joined('Border', [
        box('', [-2.5, -0.05, -0.05], [2.5, 0, 0.25]),
        box('', [-2.5, -0.05, 3.4], [2.5, 0, 3.7]),
      ]),
      joined('Treads', treads),
      joined('Risers', [...risers, box('', [x0 + STEPS * TREAD + 0.02, 0, 0], [2.48, top - 0.2, WIDTH - 0.03])]),
      box('Wall', [-2.5, 0, -0.25], [2.5, 3.1, -0.05]),
      box('Landing', [x0 + STEPS * TREAD, top - 0.2, -0.02], [2.5, top, WIDTH]),
      tube('Handrail', rail, 0.027, 24),
      joined('Balusters', balusters),
      box('Skirting', [-2.5, 0, -0.05], [x0, 0.11, -0.035]),
    ],
  }
}

/** Chips of three stones in cement. How it was finished is a published value: the parts say which. */
const terrazzo = (): Element =>
  network(`
  <position name="position" type="vector3" xpos="0" ypos="0"/>
  <divide name="at_scale" type="vector3" xpos="1" ypos="0">
    <input name="in1" type="vector3" nodename="position"/>
    <input name="in2" type="float" value="0.022" unit="meter" unittype="distance"/></divide>
  <worleynoise3d name="chips" type="float" xpos="2" ypos="0">
    <input name="position" type="vector3" nodename="at_scale"/><input name="jitter" type="float" value="0.9"/>
  </worleynoise3d>
  <cellnoise3d name="which" type="float" xpos="2" ypos="1.2">
    <input name="position" type="vector3" nodename="at_scale"/></cellnoise3d>
  <range name="inside" type="float" xpos="3" ypos="2.4"><input name="in" type="float" nodename="chips"/>
    <input name="inlow" type="float" value="0.42"/><input name="inhigh" type="float" value="0.36"/>
    <input name="doclamp" type="boolean" value="true"/></range>
  <wl_ramp name="stones" type="color3" xpos="3" ypos="1.2"><input name="in" type="float" nodename="which"/>
    <input name="interpolation" type="string" value="constant"/><input name="count" type="integer" value="4"/>
    <input name="position1" type="float" value="0"/>
    <input name="color1" type="color3" value="0.55, 0.5, 0.43"/>
    <input name="position2" type="float" value="0.4"/><input name="color2" type="color3" value="0.24, 0.1, 0.07"/>
    <input name="position3" type="float" value="0.62"/>
    <input name="color3" type="color3" value="0.06, 0.075, 0.07"/>
    <input name="position4" type="float" value="0.8"/>
    <input name="color4" type="color3" value="0.66, 0.63, 0.58"/></wl_ramp>
  <mix name="ground" type="color3" xpos="4" ypos="0"><input name="fg" type="color3" nodename="stones"/>
    <input name="bg" type="color3" value="0.42, 0.4, 0.36"/><input name="mix" type="float" nodename="inside"/></mix>
  <open_pbr_surface name="stock" type="surfaceshader" wl_title="Terrazzo, raw stock" xpos="5" ypos="0">
    <input name="base_color" type="color3" nodename="ground"/>
    <input name="specular_roughness" type="float" value="0.07" wl_published="Finish"/>
    <input name="specular_ior" type="float" value="1.56"/></open_pbr_surface>
  ${material('stock', 'terrazzo', 6)}`)

/** Plaster laid on by hand: waves of a hand's breadth to an arm's length, five millimetres up and down. */
const trowelled = `
  <divide name="strokes_at" type="vector3" xpos="5" ypos="5.2">
    <input name="in1" type="vector3" nodename="position"/>
    <input name="in2" type="float" value="0.35" unit="meter" unittype="distance"/></divide>
  <fractal3d name="strokes" type="float" xpos="6" ypos="5.2">
    <input name="position" type="vector3" nodename="strokes_at"/><input name="octaves" type="integer" value="4"/>
    <input name="amplitude" type="float" value="0.5"/></fractal3d>
  <clamp name="bounds" type="float" xpos="7" ypos="5.2"><input name="in" type="float" nodename="strokes"/>
    <input name="low" type="float" value="-1"/></clamp>
  <subtract name="level" type="float" xpos="8" ypos="5.2"><input name="in1" type="float" nodename="bounds"/>
    <input name="in2" type="float" value="0"/></subtract>
  <displacement name="plastered" type="displacementshader" xpos="9" ypos="5.2">
    <input name="displacement" type="float" nodename="level"/>
    <input name="scale" type="float" value="0.012"/></displacement>`

/**
 * Limewash in clouds over fine relief, a salt line by height, and moss where it is low and lies level.
 * @param uneven whether the plaster below it is: steps are edged too sharply for that
 */
const limewash = (uneven: boolean): Element =>
  network(`${uneven ? trowelled : ''}
  <position name="position" type="vector3" xpos="0" ypos="1"/>
  <separate3 name="place" type="multioutput" xpos="1" ypos="2.4">
    <input name="in" type="vector3" nodename="position"/></separate3>
  <divide name="clouds_at" type="vector3" xpos="1" ypos="0">
    <input name="in1" type="vector3" nodename="position"/>
    <input name="in2" type="float" value="0.5" unit="meter" unittype="distance"/></divide>
  <fractal3d name="clouds" type="float" xpos="2" ypos="0">
    <input name="position" type="vector3" nodename="clouds_at"/>
    <input name="octaves" type="integer" value="5"/><input name="amplitude" type="float" value="0.5"/></fractal3d>
  <divide name="fine_at" type="vector3" xpos="1" ypos="1.2">
    <input name="in1" type="vector3" nodename="position"/>
    <input name="in2" type="float" value="0.03" unit="meter" unittype="distance"/></divide>
  <fractal3d name="brushing" type="float" xpos="2" ypos="1.2">
    <input name="position" type="vector3" nodename="fine_at"/><input name="octaves" type="integer" value="4"/>
    <input name="amplitude" type="float" value="0.5"/></fractal3d>
  <bump name="relief" type="vector3" xpos="4" ypos="1.2">
    <input name="height" type="float" nodename="brushing"/><input name="scale" type="float" value="0.045"/></bump>
  <multiply name="unevenness" type="float" xpos="3" ypos="2.4">
    <input name="in1" type="float" nodename="clouds"/><input name="in2" type="float" value="0.45"/></multiply>
  <add name="height" type="float" xpos="4" ypos="2.4">
    <input name="in1" type="float" nodename="place" output="outy"/>
    <input name="in2" type="float" nodename="unevenness"/></add>
  <wl_ramp name="lime" type="color3" xpos="3" ypos="0"><input name="in" type="float" nodename="clouds"/>
    <input name="count" type="integer" value="3"/><input name="position1" type="float" value="-0.35"/>
    <input name="color1" type="color3" value="0.55, 0.5, 0.42"/>
    <input name="position2" type="float" value="0"/>
    <input name="color2" type="color3" value="0.7, 0.67, 0.6"/>
    <input name="position3" type="float" value="0.4"/>
    <input name="color3" type="color3" value="0.78, 0.76, 0.71"/></wl_ramp>
  <wl_curve name="salt" type="float" xpos="5" ypos="2.4"><input name="in" type="float" nodename="height"/>
    <input name="interpolation" type="string" value="smooth"/><input name="count" type="integer" value="4"/>
    <input name="position1" type="float" value="0.62"/><input name="value1" type="float" value="0"/>
    <input name="position2" type="float" value="0.72"/><input name="value2" type="float" value="0.75"/>
    <input name="position3" type="float" value="0.78"/><input name="value3" type="float" value="0.6"/>
    <input name="position4" type="float" value="1.05"/><input name="value4" type="float" value="0"/></wl_curve>
  <smoothstep name="damp" type="float" xpos="5" ypos="3.8"><input name="in" type="float" nodename="height"/>
    <input name="low" type="float" value="0.02"/><input name="high" type="float" value="0.42"/></smoothstep>
  <invert name="moss_cover" type="float" xpos="6" ypos="3.8"><input name="in" type="float" nodename="damp"/></invert>
  <open_pbr_surface name="plaster" type="surfaceshader" wl_title="Limewash" xpos="6" ypos="0">
    <input name="base_color" type="color3" nodename="lime"/>
    <input name="specular_roughness" type="float" value="0.75"/>
    <input name="geometry_normal" type="vector3" nodename="relief"/></open_pbr_surface>
  <open_pbr_surface name="salt_bloom" type="surfaceshader" wl_title="Salt line" wl_thickness="4e-05"
  xpos="7" ypos="1.2"><input name="base_color" type="color3" value="0.86, 0.86, 0.84"/>
    <input name="specular_roughness" type="float" value="0.9"/></open_pbr_surface>
  <open_pbr_surface name="moss" type="surfaceshader" wl_title="Moss" wl_thickness="0.0003" xpos="8"
  ypos="2.4"><input name="base_color" type="color3" value="0.055, 0.085, 0.022"/>
    <input name="specular_roughness" type="float" value="0.95"/>
    <input name="specular_weight" type="float" value="0.3"/>
    <input name="geometry_normal" type="vector3" nodename="relief"/></open_pbr_surface>
  <mix name="salted" type="surfaceshader" xpos="8" ypos="0">
    <input name="fg" type="surfaceshader" nodename="salt_bloom"/>
    <input name="bg" type="surfaceshader" nodename="plaster"/><input name="mix" type="float" nodename="salt"/></mix>
  <mix name="mossy" type="surfaceshader" xpos="9" ypos="0">
    <input name="fg" type="surfaceshader" nodename="moss"/>
    <input name="bg" type="surfaceshader" nodename="salted"/>
    <input name="mix" type="float" nodename="moss_cover"/></mix>
  ${material('mossy', 'limewash', 10, uneven ? 'plastered' : undefined)}`)

/** Wood under varnish whose thickness varies: the tint to the power of thickness over reference thickness. */
const varnishedWood = (): Element =>
  network(`
  <position name="position" type="vector3" xpos="0" ypos="0"/>
  <divide name="grain_at" type="vector3" xpos="1" ypos="0">
    <input name="in1" type="vector3" nodename="position"/>
    <input name="in2" type="vector3" value="0.09, 0.006, 0.006"/></divide>
  <fractal3d name="grain" type="float" xpos="2" ypos="0">
    <input name="position" type="vector3" nodename="grain_at"/><input name="octaves" type="integer" value="3"/>
    <input name="amplitude" type="float" value="0.5"/></fractal3d>
  <wl_ramp name="wood" type="color3" xpos="3" ypos="0"><input name="in" type="float" nodename="grain"/>
    <input name="count" type="integer" value="3"/><input name="position1" type="float" value="-0.4"/>
    <input name="color1" type="color3" value="0.2, 0.1, 0.045"/>
    <input name="position2" type="float" value="0"/>
    <input name="color2" type="color3" value="0.42, 0.24, 0.11"/>
    <input name="position3" type="float" value="0.4"/>
    <input name="color3" type="color3" value="0.5, 0.31, 0.15"/></wl_ramp>
  <divide name="runs_at" type="vector3" xpos="1" ypos="1.4">
    <input name="in1" type="vector3" nodename="position"/>
    <input name="in2" type="vector3" value="0.05, 0.2, 0.05"/></divide>
  <noise3d name="runs" type="float" xpos="2" ypos="1.4">
    <input name="position" type="vector3" nodename="runs_at"/>
    <input name="amplitude" type="float" value="0.6"/><input name="pivot" type="float" value="1"/></noise3d>
  <power name="tint" type="color3" xpos="3" ypos="1.4">
    <input name="in1" type="color3" value="0.93, 0.74, 0.4"/><input name="in2" type="float" nodename="runs"/></power>
  <open_pbr_surface name="stock" type="surfaceshader" wl_title="Wood, raw stock" xpos="4" ypos="0">
    <input name="base_color" type="color3" nodename="wood"/>
    <input name="specular_roughness" type="float" value="0.5"/></open_pbr_surface>
  <wl_coat_over name="varnish" type="surfaceshader" wl_title="Varnish" wl_thickness="8e-05"
  wl_reference_thickness="8e-05" xpos="5" ypos="0"><input name="base" type="surfaceshader" nodename="stock"/>
    <input name="coat_color" type="color3" nodename="tint"/>
    <input name="coat_roughness" type="float" value="0.06"/><input name="coat_ior" type="float" value="1.52"/>
  </wl_coat_over>
  ${material('varnish', 'varnished_wood', 6)}`)

export function stairHallMaterials(): Record<string, Element> {
  return {
    'Terrazzo': terrazzo(),
    'Limewash': limewash(false),
    'Limewashed plaster': limewash(true),
    'Varnished wood': varnishedWood(),
    'Painted steel': network(
      `<open_pbr_surface name="stock" type="surfaceshader" wl_title="Paint" xpos="2" ypos="0">
        <input name="base_color" type="color3" value="0.02, 0.035, 0.045"/>
        <input name="specular_roughness" type="float" value="0.28"/></open_pbr_surface>${material('stock')}`,
    ),
  }
}
