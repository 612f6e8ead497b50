import { writeFileSync } from 'node:fs'
import { planes, writeExr } from '../../core/formats/pictures/exr'
import { sphere } from '../../core/mesh/sphere'
import { instantiate } from '../../core/network/instantiate'
import { isolatedSize, isolateOnModel, isolateOnPlane } from '../../core/render/isolate'
import { cameraFrame, defaultCamera } from '../../core/scene/camera'
import { createGeometry } from '../../core/scene/geometry'
import { texturesFor } from '../../core/world/compile-material'
import { folderOf, pictureReader, readModel } from '../files'
import { nodeProgram } from '../node-program'
import { InputError, OUTPUT, type Options, VALUE, checkOutput, parseSize, unitFactor } from '../options'
import type { Command } from '../command'

/** `wavelume isolate`: the numbers of one node, one sample at each pixel's centre. */
async function isolate(o: Options): Promise<unknown> {
  const file = o.words[0]
  const node = o.text('node')
  const out = o.text('output')
  if (!file || !node || !out) throw new InputError('isolate needs a document, --node and -o out.exr')
  checkOutput(out, ['.exr'])
  const [width, height] = parseSize(o.text('size') ?? '64x64')
  const program = nodeProgram(file, node, o.number('time', 0, -1e6, 1e6))
  const shader = instantiate(program, texturesFor(program, pictureReader(folderOf(file))))
  const C = Float64Array.from(program.constants)
  const on = o.text('on') ?? 'plane'
  let values: Float32Array
  if (on === 'plane') values = isolateOnPlane(shader, C, program.size, width, height)
  else {
    const geometry = createGeometry(
      on === 'sphere'
        ? { parts: [sphere('Sphere', 0.5, 128, 256)] }
        : await readModel(on, unitFactor(o.text('unit'))),
    )
    values = isolateOnModel(
      shader,
      C,
      program.fields,
      program.size,
      geometry,
      cameraFrame(defaultCamera(geometry.hierarchy.bounds, width, height), width, height),
      width,
      height,
    )
  }
  writeFileSync(
    out,
    writeExr({
      width,
      height,
      channels: planes(values, 'RGBA'.slice(0, isolatedSize(program.size))),
      attributes: { 'wavelume:node': node },
    }),
  )
  return { width, height, components: program.size }
}

export const command: Command = {
  usage: `wavelume isolate FILE.mtlx --node NODE [--on plane|sphere|MESH] [--size 64x64]
                [--time SECONDS] [--unit mm] -o out.exr`,
  takes: () => ({
    words: 1,
    options: { node: VALUE, on: VALUE, size: VALUE, output: OUTPUT, time: VALUE, unit: VALUE },
  }),
  run: isolate,
}
