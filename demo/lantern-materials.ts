import type { Element } from '../core/network/document'
import { material, network } from './network-text'

const plain = (title: string, inputs: string) =>
  network(
    `<open_pbr_surface name="stock" type="surfaceshader" wl_title="${title}" xpos="2" ypos="0">
      ${inputs}</open_pbr_surface>${material('stock')}`,
  )
const metal = (title: string, of: string, roughness: number) =>
  network(
    `<wl_metal name="stock" type="surfaceshader" wl_title="${title}" xpos="2" ypos="0">
      <input name="metal" type="string" value="${of}"/>
      <input name="roughness" type="float" value="${roughness}"/></wl_metal>${material('stock')}`,
  )

/**
 * Enamel over primer over steel, chipped at the edges: what lies bare is decided by curvature roughened with
 * noise, and primer shows as a halo around bare steel.
 */
const chippedEnamel = (): Element =>
  network(`
  <position name="position" type="vector3" xpos="0" ypos="0"/>
  <divide name="at_scale" type="vector3" xpos="1" ypos="0">
    <input name="in1" type="vector3" nodename="position"/>
    <input name="in2" type="float" value="0.006" unit="meter" unittype="distance"/></divide>
  <fractal3d name="chips" type="float" xpos="2" ypos="0">
    <input name="position" type="vector3" nodename="at_scale"/><input name="octaves" type="integer" value="3"/>
    <input name="amplitude" type="float" value="0.5"/></fractal3d>
  <wl_curvature name="edge_wear" type="float" xpos="2" ypos="1.2">
    <input name="radius" type="float" value="1.6" unit="millimeter" unittype="distance"/>
    <input name="side" type="string" value="convex"/></wl_curvature>
  <add name="rough_edges" type="float" xpos="3" ypos="0.6">
    <input name="in1" type="float" nodename="edge_wear"/><input name="in2" type="float" nodename="chips"/></add>
  <smoothstep name="halo" type="float" xpos="4" ypos="0">
    <input name="in" type="float" nodename="rough_edges"/><input name="low" type="float" value="0.50"/>
    <input name="high" type="float" value="0.54"/></smoothstep>
  <smoothstep name="crisp" type="float" xpos="4" ypos="1.2">
    <input name="in" type="float" nodename="rough_edges"/><input name="low" type="float" value="0.62"/>
    <input name="high" type="float" value="0.68"/></smoothstep>
  <noise3d name="speckle" type="float" xpos="2" ypos="2.6">
    <input name="position" type="vector3" nodename="fine"/><input name="amplitude" type="float" value="0.5"/>
    <input name="pivot" type="float" value="0.5"/></noise3d>
  <divide name="fine" type="vector3" xpos="1" ypos="2.6">
    <input name="in1" type="vector3" nodename="position"/><input name="in2" type="float" value="0.0009"/></divide>
  <mix name="enamel_colour" type="color3" xpos="3" ypos="2.6">
    <input name="fg" type="color3" value="0.014, 0.125, 0.1"/>
    <input name="bg" type="color3" value="0.02, 0.155, 0.122"/><input name="mix" type="float" nodename="speckle"/></mix>
  <wl_metal name="steel" type="surfaceshader" wl_title="Steel, raw stock" xpos="4" ypos="4.6">
    <input name="metal" type="string" value="iron"/><input name="roughness" type="float" value="0.24"/></wl_metal>
  <open_pbr_surface name="primer" type="surfaceshader" wl_title="Primer" wl_thickness="2.5e-05" xpos="5"
  ypos="3.6"><input name="base_color" type="color3" value="0.36, 0.31, 0.24"/>
    <input name="specular_roughness" type="float" value="0.6"/></open_pbr_surface>
  <open_pbr_surface name="enamel" type="surfaceshader" wl_title="Enamel" wl_thickness="0.00012" xpos="4"
  ypos="2.6"><input name="base_color" type="color3" nodename="enamel_colour"/>
    <input name="specular_roughness" type="float" value="0.14"/>
    <input name="specular_ior" type="float" value="1.52"/></open_pbr_surface>
  <mix name="primed" type="surfaceshader" xpos="6" ypos="3.6">
    <input name="fg" type="surfaceshader" nodename="primer"/>
    <input name="bg" type="surfaceshader" nodename="steel"/><input name="mix" type="float" value="1"/></mix>
  <mix name="enamelled" type="surfaceshader" xpos="7" ypos="2.6">
    <input name="fg" type="surfaceshader" nodename="enamel"/>
    <input name="bg" type="surfaceshader" nodename="primed"/><input name="mix" type="float" value="1"/></mix>
  <mix name="halo_cut" type="surfaceshader" wl_title="Chipped to the primer" xpos="8" ypos="1.4">
    <input name="fg" type="surfaceshader" nodename="primed"/>
    <input name="bg" type="surfaceshader" nodename="enamelled"/><input name="mix" type="float" nodename="halo"/></mix>
  <mix name="worn" type="surfaceshader" wl_title="Edge wear" xpos="9" ypos="1.4">
    <input name="fg" type="surfaceshader" nodename="steel"/>
    <input name="bg" type="surfaceshader" nodename="halo_cut"/><input name="mix" type="float" nodename="crisp"/></mix>
  ${material('worn', 'chipped_enamel', 10)}`)

/**
 * Titanium that the flame has tinted: an oxide film that is thickest where it was hottest, below, and a little
 * uneven.
 */
const heatTinted = (): Element =>
  network(`
  <position name="position" type="vector3" xpos="0" ypos="0"/>
  <extract name="height" type="float" xpos="1" ypos="0"><input name="in" type="vector3" nodename="position"/>
    <input name="index" type="integer" value="1"/></extract>
  <remap name="heat" type="float" xpos="2" ypos="0"><input name="in" type="float" nodename="height"/>
    <input name="inlow" type="float" value="0.187"/><input name="inhigh" type="float" value="0.16"/>
    <input name="outlow" type="float" value="16"/><input name="outhigh" type="float" value="62"/></remap>
  <divide name="patches" type="vector3" xpos="1" ypos="1.2">
    <input name="in1" type="vector3" nodename="position"/>
    <input name="in2" type="float" value="0.012" unit="meter" unittype="distance"/></divide>
  <noise3d name="uneven" type="float" xpos="2" ypos="1.2">
    <input name="position" type="vector3" nodename="patches"/><input name="amplitude" type="float" value="4"/></noise3d>
  <add name="oxide" type="float" xpos="3" ypos="0"><input name="in1" type="float" nodename="heat"/>
    <input name="in2" type="float" nodename="uneven"/></add>
  <wl_metal name="stock" type="surfaceshader" wl_title="Titanium, raw stock" xpos="4" ypos="0">
    <input name="metal" type="string" value="titanium"/><input name="roughness" type="float" value="0.26"/>
    <input name="film_thickness" type="float" nodename="oxide"/>
    <input name="film_ior" type="float" value="2.4"/></wl_metal>
  ${material('stock', 'titanium', 5)}`)

/**
 * Cord wound around the handle in turns that slope: a sine over the part's own coordinates as relief and as dirt
 * between the turns.
 */
const wrappedGrip = (): Element =>
  network(`
  <texcoord name="uv" type="vector2" xpos="0" ypos="0"/>
  <dotproduct name="turns" type="float" xpos="1" ypos="0"><input name="in1" type="vector2" nodename="uv"/>
    <input name="in2" type="vector2" value="6.2831853, 408.4"/></dotproduct>
  <sin name="cord" type="float" xpos="2" ypos="0"><input name="in" type="float" nodename="turns"/></sin>
  <range name="between" type="float" xpos="3" ypos="1.2"><input name="in" type="float" nodename="cord"/>
    <input name="inlow" type="float" value="-1"/><input name="inhigh" type="float" value="0.4"/>
    <input name="gamma" type="float" value="1.6"/><input name="doclamp" type="boolean" value="true"/></range>
  <mix name="cord_colour" type="color3" xpos="4" ypos="1.2">
    <input name="fg" type="color3" value="0.075, 0.062, 0.05"/>
    <input name="bg" type="color3" value="0.012, 0.01, 0.009"/><input name="mix" type="float" nodename="between"/></mix>
  <bump name="wound" type="vector3" xpos="4" ypos="0"><input name="height" type="float" nodename="cord"/>
    <input name="scale" type="float" value="0.05"/></bump>
  <open_pbr_surface name="stock" type="surfaceshader" wl_title="Cord, raw stock" xpos="5" ypos="0">
    <input name="base_color" type="color3" nodename="cord_colour"/>
    <input name="specular_roughness" type="float" value="0.6"/>
    <input name="geometry_normal" type="vector3" nodename="wound"/></open_pbr_surface>
  ${material('stock', 'wrapped_grip', 6)}`)

/** Aluminium with the marks of a ball hammer: distances of a cell noise as relief. */
const hammered = (): Element =>
  network(`
  <position name="position" type="vector3" xpos="0" ypos="0"/>
  <divide name="at_scale" type="vector3" xpos="1" ypos="0">
    <input name="in1" type="vector3" nodename="position"/>
    <input name="in2" type="float" value="0.005" unit="meter" unittype="distance"/></divide>
  <worleynoise3d name="blows" type="float" xpos="2" ypos="0">
    <input name="position" type="vector3" nodename="at_scale"/></worleynoise3d>
  <displacement name="dents" type="displacementshader" xpos="4" ypos="1.6">
    <input name="displacement" type="float" nodename="blows"/><input name="scale" type="float" value="0.0008"/>
  </displacement>
  <wl_metal name="stock" type="surfaceshader" wl_title="Aluminium, raw stock" xpos="4" ypos="0">
    <input name="metal" type="string" value="aluminium"/><input name="roughness" type="float" value="0.12"/></wl_metal>
  ${material('stock', 'hammered', 5, 'dents')}`)

/** Materials of the lantern by key. Parts whose optics are still to come wear honest plainer ones. */
export function lanternMaterials(): Record<string, Element> {
  return {
    'Chipped enamel': chippedEnamel(),
    // Brass is not among the tabulated metals: facing and edge colour by eye.
    'Worn brass': plain(
      'Brass, raw stock',
      `<input name="base_color" type="color3" value="0.87, 0.66, 0.32"/>
        <input name="base_metalness" type="float" value="1"/>
        <input name="specular_color" type="color3" value="0.98, 0.94, 0.8"/>
        <input name="specular_roughness" type="float" value="0.22"/>`,
    ),
    'Pressed glass': plain(
      'Glass, raw stock',
      `<input name="transmission_weight" type="float" value="1"/>
        <input name="specular_roughness" type="float" value="0"/>
        <input name="specular_ior" type="float" value="1.52"/>
        <input name="transmission_color" type="color3" value="0.86, 0.95, 0.92"/>
        <input name="transmission_depth" type="float" value="0.012"/>`,
    ),
    'Milky polymer': plain(
      'Polymer, raw stock',
      `<input name="base_color" type="color3" value="0.8, 0.76, 0.66"/>
        <input name="specular_roughness" type="float" value="0.4"/>
        <input name="emission_luminance" type="float" value="1.5"/>
        <input name="emission_color" type="color3" value="1, 0.74, 0.38"/>`,
    ),
    'Signal yellow': plain(
      'Polymer, raw stock',
      `<input name="base_color" type="color3" value="0.62, 0.8, 0.05"/>
        <input name="specular_roughness" type="float" value="0.3"/>`,
    ),
    'Titanium': heatTinted(),
    'Wrapped grip': wrappedGrip(),
    'Hammered aluminium': hammered(),
    'Dial nickel': metal('Nickel, raw stock', 'nickel', 0.22),
    'Stage grey': plain(
      'Stage',
      `<input name="base_color" type="color3" value="0.28, 0.28, 0.28"/>
        <input name="specular_roughness" type="float" value="0.5"/>`,
    ),
  }
}
