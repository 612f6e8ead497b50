import type { Model, Part } from '../../core/mesh/model'
import { smoothNormals } from '../../core/mesh/model'
import { sphere } from '../../core/mesh/sphere'
import { quad } from '../../core/mesh/quad'
import { createLights } from '../../core/light/create-lights'
import { compileMaterial } from '../../core/world/compile-material'
import type { Camera } from '../../core/scene/camera'
import { createGeometry } from '../../core/scene/geometry'
import type { World } from '../../core/world/world'
import type { Allocate } from '../../core/trace/hierarchy'
import { noise3 } from '../../core/nodes/noise'
import { rigs } from '../../core/scene/rigs'
import { readMtlx } from '../../core/formats/mtlx/mtlx'
import type { Element } from '../../core/network/document'
import type { Rig } from '../../core/scene/rig'

/** Rings of the hero that make 175 k triangles of the scene. */
const RINGS = 264

/**
 * The model that the speed of path tracing is measured on: a displaced sphere on a ground with five small spheres.
 * @param rings of the hero, which has 1.25 times as many segments around
 */
export function benchmarkModel(rings = RINGS): Model {
  const hero = sphere('Hero', 0.5, rings, Math.round(rings * 1.25), [0, 0.5, 0])
  for (let i = 0; i < hero.position.length; i += 3) {
    const x = hero.normal[i]!
    const y = hero.normal[i + 1]!
    const z = hero.normal[i + 2]!
    const d = 0.02 * noise3(x * 6, y * 6, z * 6)
    hero.position[i]! += x * d
    hero.position[i + 1]! += y * d
    hero.position[i + 2]! += z * d
  }
  hero.normal = smoothNormals(hero.position, hero.index)
  const parts: Part[] = [hero]
  const g = 6
  for (let i = 0; i < 5; i++)
    parts.push(
      sphere(`Ball ${i + 1}`, 0.16, 12, 24, [
        Math.cos(i * 1.25 + 0.4) * 0.85,
        0.16,
        Math.sin(i * 1.25 + 0.4) * 0.85,
      ]),
    )
  parts.push(quad('Ground', [-g, 0, g, g, 0, g, g, 0, -g, -g, 0, -g]))
  return { parts }
}

/** A surface of one node or few, as a document with the material `m`. */
export const plain = (body: string): Element =>
  readMtlx(
    `<materialx version="1.39">${body}<surfacematerial name="m" type="material">
      <input name="surfaceshader" type="surfaceshader" nodename="s"/></surfacematerial></materialx>`,
  )

/** What its parts wear, the hero first, and under which lights it stands. */
export function benchmarkLook(): { documents: Element[]; materialOf: Int32Array; rig: Rig } {
  return {
    documents: [
      readMtlx(NETWORK),
      plain(
        '<wl_metal name="s" type="surfaceshader"><input name="roughness" type="float" value="0.25"/></wl_metal>',
      ),
      plain(
        `<open_pbr_surface name="s" type="surfaceshader">
          <input name="transmission_weight" type="float" value="1"/>
          <input name="specular_roughness" type="float" value="0"/></open_pbr_surface>`,
      ),
      plain(
        `<open_pbr_surface name="b" type="surfaceshader">
          <input name="base_color" type="color3" value="0.5, 0.1, 0.1"/></open_pbr_surface>
          <wl_coat_over name="s" type="surfaceshader"><input name="base" type="surfaceshader" nodename="b"/>
          </wl_coat_over>`,
      ),
      plain(
        `<open_pbr_surface name="s" type="surfaceshader">
          <input name="base_color" type="color3" value="0.3, 0.3, 0.3"/>
          <input name="specular_roughness" type="float" value="0.5"/></open_pbr_surface>`,
      ),
    ],
    materialOf: Int32Array.of(0, 1, 2, 3, 1, 2, 4),
    rig: { ...rigs(1)[0]!, environment: { kind: 'uniform', radiance: [0.3, 0.3, 0.32] }, backdrop: undefined },
  }
}

/**
 * That model in metal, glass and coat under three panels in an environment, ready for workers.
 * @param allocate of its arrays; shared ones for threads
 */
export function benchmarkWorld(model: Model = benchmarkModel(), allocate?: Allocate): World {
  const { documents, materialOf, rig } = benchmarkLook()
  const programs = documents.map(d => compileMaterial(d, 'm', true))
  return {
    geometry: createGeometry(model, new Set(), allocate),
    lights: createLights(rig, null, allocate),
    programs,
    maps: programs.map(() => []),
    materialOf,
    priorityOf: new Int32Array(materialOf.length),
    maxOpaque: 8,
    maxSpecular: 24,
  }
}

/** How it is looked at. */
export const VIEW: Camera = { name: 'View', position: [1.5, 1.1, 2.3], target: [0, 0.38, 0], fov: 30 }

/** A network of 14 nodes with noise of five octaves projected along three axes and blended by the normal. */
const axis = (name: string, a: string, b: string) => `
  <combine2 name="at_${name}" type="vector2"><input name="in1" type="float" nodename="${a}"/>
  <input name="in2" type="float" nodename="${b}"/></combine2>
  <fractal2d name="noise_${name}" type="float"><input name="texcoord" type="vector2" nodename="at_${name}"/>
  <input name="octaves" type="integer" value="5"/></fractal2d>`
const NETWORK = `<materialx version="1.39"><position name="p" type="vector3"/>
  <multiply name="scaled" type="vector3"><input name="in1" type="vector3" nodename="p"/>
  <input name="in2" type="float" value="9"/></multiply>
  <extract name="x" type="float"><input name="in" type="vector3" nodename="scaled"/>
  <input name="index" type="integer" value="0"/></extract><extract name="y" type="float">
  <input name="in" type="vector3" nodename="scaled"/><input name="index" type="integer" value="1"/></extract>
  <extract name="z" type="float"><input name="in" type="vector3" nodename="scaled"/>
  <input name="index" type="integer" value="2"/></extract>
  ${axis('x', 'y', 'z')}${axis('y', 'z', 'x')}${axis('z', 'x', 'y')}
  <combine3 name="three" type="vector3"><input name="in1" type="float" nodename="noise_x"/>
  <input name="in2" type="float" nodename="noise_y"/><input name="in3" type="float" nodename="noise_z"/></combine3>
  <normal name="n" type="vector3"/><multiply name="n2" type="vector3">
  <input name="in1" type="vector3" nodename="n"/><input name="in2" type="vector3" nodename="n"/></multiply>
  <multiply name="weighed" type="vector3"><input name="in1" type="vector3" nodename="three"/>
  <input name="in2" type="vector3" nodename="n2"/></multiply>
  <separate3 name="parts" type="multioutput"><input name="in" type="vector3" nodename="weighed"/></separate3>
  <add name="xy" type="float"><input name="in1" type="float" nodename="parts" output="outx"/>
  <input name="in2" type="float" nodename="parts" output="outy"/></add><add name="sum" type="float">
  <input name="in1" type="float" nodename="xy"/><input name="in2" type="float" nodename="parts" output="outz"/></add>
  <smoothstep name="crisp" type="float"><input name="in" type="float" nodename="sum"/>
  <input name="low" type="float" value="-0.2"/><input name="high" type="float" value="0.3"/></smoothstep>
  <mix name="colour" type="color3"><input name="fg" type="color3" value="0.7, 0.6, 0.4"/>
  <input name="bg" type="color3" value="0.1, 0.2, 0.3"/><input name="mix" type="float" nodename="crisp"/></mix>
  <open_pbr_surface name="s" type="surfaceshader"><input name="base_color" type="color3" nodename="colour"/>
  <input name="specular_roughness" type="float" nodename="crisp"/></open_pbr_surface>
  <surfacematerial name="m" type="material"><input name="surfaceshader" type="surfaceshader" nodename="s"/>
  </surfacematerial></materialx>`
