// Writes the files that the end-to-end tests drop:  node scripts/bundle.mjs tests/fixtures.ts FOLDER
import { mkdirSync, writeFileSync } from 'node:fs'
import { Document, WebIO } from '@gltf-transform/core'
import { KHRLightsPunctual } from '@gltf-transform/extensions'
import { writePng } from '../core/formats/pictures/png'
import { sphere } from '../core/mesh/sphere'
import { lathe, placed, rounded } from '../core/mesh/build/lathe'
import { box } from '../core/mesh/build/solids'
import { writeGlb } from '../core/formats/models/glb-write'

const folder = process.argv[2]!
mkdirSync(folder, { recursive: true })
const checks = (n: number, a: number[], b: number[]) => {
  const d = new Uint8Array(n * n * 4)
  for (let i = 0; i < n * n; i++) d.set([...((((i % n) >> 3) + (Math.floor(i / n) >> 3)) & 1 ? a : b), 255], i * 4)
  return writePng(n, n, d)
}
writeFileSync(`${folder}/check.png`, checks(64, [200, 40, 30], [240, 220, 180]))
writeFileSync(`${folder}/grey.png`, checks(64, [60, 60, 60], [200, 200, 200]))
writeFileSync(`${folder}/grey_rough.png`, checks(32, [90, 90, 90], [140, 140, 140]))
writeFileSync(`${folder}/stone_colour.png`, checks(64, [120, 110, 100], [150, 140, 125]))
writeFileSync(`${folder}/stone_rough.png`, checks(64, [120, 120, 120], [220, 220, 220]))
writeFileSync(`${folder}/stone_height.png`, checks(64, [100, 100, 100], [160, 160, 160]))
writeFileSync(`${folder}/reference.png`, checks(160, [90, 90, 90], [120, 130, 140]))
const model = await writeGlb({
  parts: [
    sphere('Bulb', 0.05, 32, 64, [0, 0.13, 0]),
    lathe(
      'Base',
      rounded(
        [
          [0, 0],
          [0.06, 0],
          [0.06, 0.03],
          [0.05, 0.07],
          [0, 0.07],
        ],
        0.003,
      ),
      96,
    ),
    sphere('Knob', 0.016, 24, 48, [0.062, 0.05, 0]),
    lathe(
      'Plate',
      [
        [0.3, -0.0001],
        [0, -0.0001],
      ],
      48,
    ),
  ],
})
writeFileSync(`${folder}/beacon.glb`, model)
// one piece for each of the special optics: a cone, a bubble, a board, a glass with a liquid, a turned disc, and
// two shells in each other
const at = (part: ReturnType<typeof sphere>, x: number, y = 0) =>
  placed(part, [1, 0, 0, 0, 1, 0, 0, 0, 1, x, y, 0])
writeFileSync(
  `${folder}/trial.glb`,
  await writeGlb({
    parts: [
      {
        ...at(
          lathe(
            '',
            rounded(
              [
                [0, 0],
                [0.022, 0],
                [0.007, 0.05],
                [0, 0.05],
              ],
              0.0015,
            ),
            96,
          ),
          -0.15,
        ),
        name: 'Cone',
      },
      { ...at(sphere('', 0.024, 32, 64), -0.09, 0.025), name: 'Bubble' },
      { ...box('', [-0.055, 0.001, -0.02], [-0.01, 0.046, 0.02]), name: 'Board' },
      {
        ...at(
          lathe(
            '',
            rounded(
              [
                [0, 0],
                [0.02, 0],
                [0.022, 0.05],
                [0.0203, 0.0502],
                [0.018, 0.004],
                [0, 0.004],
              ],
              0.0006,
            ),
            96,
          ),
          0.03,
        ),
        name: 'Tumbler',
      },
      {
        ...at(
          lathe(
            '',
            rounded(
              [
                [0, 0.0035],
                [0.0184, 0.0035],
                [0.0196, 0.034],
                [0, 0.034],
              ],
              0.0004,
            ),
            96,
          ),
          0.03,
        ),
        name: 'Liquid',
      },
      {
        ...placed(
          lathe(
            '',
            rounded(
              [
                [0, 0],
                [0.022, 0],
                [0.022, 0.004],
                [0, 0.004],
              ],
              0.001,
            ),
            128,
          ),
          [1, 0, 0, 0, 0.485, 0.875, 0, -0.875, 0.485, 0.09, 0.022, 0],
        ),
        name: 'Disc',
      },
      { ...at(sphere('', 0.024, 32, 64), 0.15, 0.026), name: 'Pendant' },
      { ...at(sphere('', 0.0215, 32, 64), 0.15, 0.026), name: 'Hollow' },
      { ...at(sphere('', 0.008, 24, 48), 0.15, 0.026), name: 'Lamp' },
      lathe(
        'Plate',
        [
          [0.21, -0.0001],
          [0, -0.0001],
        ],
        48,
      ),
    ],
  }),
)
writeFileSync(`${folder}/broken.glb`, model.slice(0, 900))
writeFileSync(`${folder}/broken.png`, checks(16, [1, 2, 3], [4, 5, 6]).slice(0, 60))
writeFileSync(
  `${folder}/loop.mtlx`,
  `<?xml version="1.0"?><materialx version="1.39"><add name="a" type="float">
    <input name="in1" type="float" nodename="b"/></add><add name="b" type="float">
    <input name="in1" type="float" nodename="a"/></add>
    <open_pbr_surface name="&lt;img src=x onerror=alert(1)&gt;" type="surfaceshader">
    <input name="specular_roughness" type="float" nodename="a"/></open_pbr_surface>
    <surfacematerial name="m" type="material">
    <input name="surfaceshader" type="surfaceshader" nodename="&lt;img src=x onerror=alert(1)&gt;"/>
    </surfacematerial></materialx>`,
)
/** Document of a material whose surface is the node s. */
const wornBy = (body: string, more = '') => `<?xml version="1.0"?><materialx version="1.39">${body}
  <surfacematerial name="m" type="material"><input name="surfaceshader" type="surfaceshader" nodename="s"/>${more}
  </surfacematerial></materialx>`
// red and green pixels, of which a part shows four by four: what is left of coarser levels is neither
const fine = new Uint8Array(2048 * 2048 * 4)
for (let i = 0; i < fine.length / 4; i++) fine[i * 4 + ((i + (i >> 11)) & 1)] = fine[i * 4 + 3] = 255
writeFileSync(`${folder}/fine.png`, writePng(2048, 2048, fine))
writeFileSync(
  `${folder}/fine.mtlx`,
  wornBy(`<texcoord name="uv" type="vector2"/>
    <multiply name="few" type="vector2"><input name="in1" type="vector2" nodename="uv"/>
      <input name="in2" type="float" value="0.002"/></multiply>
    <image name="i" type="color3"><input name="file" type="filename" value="fine.png" colorspace="srgb_texture"/>
      <input name="texcoord" type="vector2" nodename="few"/></image>
    <surface_unlit name="s" type="surfaceshader">
      <input name="emission_color" type="color3" nodename="i"/></surface_unlit>`),
)
writeFileSync(
  `${folder}/swollen.mtlx`,
  wornBy(
    `<open_pbr_surface name="s" type="surfaceshader"/><displacement name="d" type="displacementshader">
      <input name="displacement" type="float" value="0.03"/></displacement>`,
    '<input name="displacementshader" type="displacementshader" nodename="d"/>',
  ),
)
writeFileSync(`${folder}/broken.mtlx`, '<materialx version="1.39"><add name="a"')

// a model with a material of its own: a map, a factor, and an occlusion that is traced and not read
const document = new Document()
const buffer = document.createBuffer()
const ball = sphere('Float', 0.05, 24, 48, [0, 0.05, 0])
const accessor = (type: 'VEC2' | 'VEC3' | 'SCALAR', array: Float32Array | Uint32Array) =>
  document
    .createAccessor()
    .setType(type)
    .setArray(array as Float32Array<ArrayBuffer>)
    .setBuffer(buffer)
const lacquer = document
  .createMaterial('Lacquer')
  .setBaseColorTexture(
    document
      .createTexture('squares')
      .setMimeType('image/png')
      .setImage(checks(64, [20, 60, 160], [230, 230, 240]) as Uint8Array<ArrayBuffer>),
  )
  .setMetallicFactor(0)
  .setRoughnessFactor(0.25)
  .setOcclusionTexture(
    document
      .createTexture('occlusion')
      .setMimeType('image/png')
      .setImage(checks(8, [255, 255, 255], [200, 200, 200]) as Uint8Array<ArrayBuffer>),
  )
document
  .createScene()
  .addChild(
    document
      .createNode('Float')
      .setMesh(
        document
          .createMesh('Float')
          .addPrimitive(
            document
              .createPrimitive()
              .setMaterial(lacquer)
              .setIndices(accessor('SCALAR', ball.index))
              .setAttribute('POSITION', accessor('VEC3', ball.position))
              .setAttribute('NORMAL', accessor('VEC3', ball.normal))
              .setAttribute('TEXCOORD_0', accessor('VEC2', ball.uv)),
          ),
      ),
  )
writeFileSync(`${folder}/float.glb`, await new WebIO().writeBinary(document))

// a ball under a closed glass dome on a plate, and a bowl that does not close, lit by the file's own lights: a
// point, a spot that looks down, and a direction
const lit = new Document()
const held = lit.createBuffer()
const lamps = lit.createExtension(KHRLightsPunctual)
const stand = lit.createScene()
const bowl = { ...sphere('Bowl', 0.03, 16, 32, [0.12, 0.03, 0]) }
for (const p of [
  sphere('Core', 0.025, 24, 48, [0, 0.06, 0]),
  sphere('Dome', 0.055, 32, 64, [0, 0.06, 0]),
  { ...bowl, index: bowl.index.slice(0, bowl.index.length / 2 - ((bowl.index.length / 2) % 3)) },
  lathe(
    'Plate',
    [
      [0.3, -0.0001],
      [0, -0.0001],
    ],
    48,
  ),
]) {
  const a = (type: 'VEC3' | 'SCALAR', array: Float32Array | Uint32Array) =>
    lit
      .createAccessor()
      .setType(type)
      .setArray(array as Float32Array<ArrayBuffer>)
      .setBuffer(held)
  stand.addChild(
    lit
      .createNode(p.name)
      .setMesh(
        lit
          .createMesh(p.name)
          .addPrimitive(
            lit
              .createPrimitive()
              .setIndices(a('SCALAR', p.index))
              .setAttribute('POSITION', a('VEC3', p.position))
              .setAttribute('NORMAL', a('VEC3', p.normal)),
          ),
      ),
  )
}
const lamp = (
  name: string,
  kind: 'point' | 'spot' | 'directional',
  intensity: number,
  place: [number, number, number],
) =>
  stand.addChild(
    lit
      .createNode(name)
      .setTranslation(place)
      .setRotation([-Math.SQRT1_2, 0, 0, Math.SQRT1_2])
      .setExtension('KHR_lights_punctual', lamps.createLight(name).setType(kind).setIntensity(intensity)),
  )
lamp('Point', 'point', 60, [0.5, 0.6, 0.5])
lamp('Spot', 'spot', 15, [0.12, 0.5, 0])
lamp('Day', 'directional', 10, [0, 1, 0])
writeFileSync(`${folder}/lamps.glb`, await new WebIO().registerExtensions([KHRLightsPunctual]).writeBinary(lit))

// an OBJ in millimetres with its library and a map, and the same as glTF of two files
const lines = (p: typeof ball, first: number) =>
  [...p.position].reduce((t, x, i) => t + (i % 3 ? ' ' : '\nv ') + (x * 1000).toFixed(3), '') +
  [...p.index].reduce((t, x, i) => t + (i % 3 ? ' ' : '\nf ') + (x + first), '')
const lid = sphere('Lid', 0.03, 12, 24, [0, 0.09, 0])
const tub = sphere('Tub', 0.05, 16, 32, [0, 0.04, 0])
writeFileSync(
  `${folder}/buoy.obj`,
  `mtllib buoy.mtl\no Tub\nusemtl Red lacquer${lines(tub, 1)}\no Lid\nusemtl ` +
    `Plain${lines(lid, 1 + tub.position.length / 3)}\n`,
)
writeFileSync(
  `${folder}/buoy.mtl`,
  'newmtl Red lacquer\nKd 0.6 0.02 0.02\nNs 400\nnewmtl Plain\nmap_Kd maps/check.png\nd 0.4\n',
)
// a wall of 3 m about a window, of four quadrilaterals; neither normals nor coordinates
writeFileSync(
  `${folder}/wall.obj`,
  'o Wall\nv 0 0 0\nv 3 0 0\nv 3 3 0\nv 0 3 0\nv 1 1 0\nv 2 1 0\nv 2 2 0\nv 1 2 0\n' +
    'f 1 2 6 5\nf 2 3 7 6\nf 3 4 8 7\nf 4 1 5 8\n',
)
// a box of six quadrilaterals
writeFileSync(
  `${folder}/crate.obj`,
  `o Crate\n${[0, 1, 2, 3, 4, 5, 6, 7].map(i => `v ${i & 1} ${(i >> 1) & 1} ${i >> 2}\n`).join('')}` +
    'f 1 3 4 2\nf 5 6 8 7\nf 1 2 6 5\nf 3 7 8 4\nf 1 5 7 3\nf 2 4 8 6\n',
)
// large enough that its import takes a while
const large = sphere('Large', 1, 700, 1400)
writeFileSync(`${folder}/large.glb`, await writeGlb({ parts: [large] }))
// one mesh that three nodes carry: large enough that copies stay copies, and that threads share its building
const posts = new Document()
const room = posts.createBuffer()
const row = posts.createScene()
const head = sphere('Head', 0.05, 220, 320)
const words = (type: 'VEC3' | 'SCALAR', array: Float32Array | Uint32Array) =>
  posts
    .createAccessor()
    .setType(type)
    .setArray(array as Float32Array<ArrayBuffer>)
    .setBuffer(room)
const shared = posts
  .createMesh('Head')
  .addPrimitive(
    posts
      .createPrimitive()
      .setIndices(words('SCALAR', head.index))
      .setAttribute('POSITION', words('VEC3', head.position))
      .setAttribute('NORMAL', words('VEC3', head.normal)),
  )
for (const [i, name] of ['Left', 'Middle', 'Right'].entries())
  row.addChild(
    posts
      .createNode(name)
      .setMesh(shared)
      .setTranslation([(i - 1) * 0.14, 0.05, 0])
      .setRotation([0, 0, Math.sin(i * 0.4), Math.cos(i * 0.4)])
      .setScale([1, 0.9, 1]),
  )
writeFileSync(`${folder}/bollards.glb`, await new WebIO().writeBinary(posts))
