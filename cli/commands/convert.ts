import { writeFileSync } from 'node:fs'
import { encodeSRGB, rec709ToAcescg } from '../../core/colour/rgb'
import { rgbChannels, writeExr } from '../../core/formats/pictures/exr'
import { writeGlb } from '../../core/formats/models/glb-write'
import { pictureFormats } from '../../core/formats/pictures'
import { writePng } from '../../core/formats/pictures/png'
import { writeMtlx } from '../../core/formats/mtlx/mtlx'
import { writePly } from '../../core/formats/models/ply-write'
import { readLinear } from './compare'
import { readDocument, readModel } from '../files'
import { InputError, type Options, VALUE, checkOutput, unitFactor } from '../options'
import type { Command } from '../command'

const ending = (file: string) => /\.([a-z0-9]+)$/i.exec(file)?.[1]?.toLowerCase() ?? ''
const PICTURES = pictureFormats.flatMap(f => f.endings)
const MODELS = ['glb', 'obj', 'ply']

/** `wavelume convert IN OUT`: documents, pictures and models. What the target cannot carry is said. */
async function convert(o: Options): Promise<unknown> {
  const [from, to] = o.words
  if (!from || !to) throw new InputError('convert needs a file to read and a file to write')
  checkOutput(to, ['.mtlx', '.exr', '.png', '.ply', '.glb'])
  const a = ending(from)
  const b = ending(to)
  if (a === 'mtlx' && b === 'mtlx') {
    const text = writeMtlx(readDocument(from))
    writeFileSync(to, text)
    return { bytes: text.length }
  }
  if (PICTURES.includes(a) && (b === 'exr' || b === 'png')) {
    const { width, height, rgb } = readLinear(from)
    const space = o.text('space') ?? 'rec709'
    if (space !== 'rec709' && space !== 'acescg')
      throw new InputError(`there is no space ${space}; rec709 and acescg are`)
    if (space === 'acescg' && b !== 'exr')
      throw new InputError('only .exr says its primaries: acescg goes with it')
    if (b === 'exr')
      writeFileSync(
        to,
        writeExr({
          width,
          height,
          attributes: {},
          space,
          channels: rgbChannels(
            space === 'rec709'
              ? rgb
              : Float32Array.from(
                  rgb,
                  (_, i) => rec709ToAcescg(rgb.subarray(i - (i % 3), i - (i % 3) + 3))[i % 3]!,
                ),
          ),
        }),
      )
    else {
      const beyond = rgb.reduce((n, x) => n + (x > 1 || x < 0 ? 1 : 0), 0)
      if (beyond) console.error(`lost: ${beyond} values outside 0…1 are clipped`)
      writeFileSync(
        to,
        writePng(
          width,
          height,
          Uint8Array.from(rgb, x => Math.round(255 * encodeSRGB(Math.min(1, Math.max(0, x))))),
          3,
        ),
      )
    }
    return { width, height }
  }
  if (MODELS.includes(a) && b === 'ply') {
    const model = await readModel(from, unitFactor(o.text('unit')))
    if (model.parts.length > 1)
      console.error(`lost: the names of ${model.parts.length} parts, which PLY does not carry`)
    if (!model.parts.every(p => p.uv.length || p.copy))
      console.error('lost: coordinates, which some parts do not have')
    writeFileSync(to, writePly(model))
    return { parts: model.parts.length }
  }
  if (MODELS.includes(a) && b === 'glb') {
    const model = await readModel(from, unitFactor(o.text('unit')))
    console.error('lost: materials, which are documents of their own')
    writeFileSync(to, await writeGlb(model))
    return { parts: model.parts.length }
  }
  throw new InputError(
    `.${a} cannot become .${b}: documents (.mtlx), pictures (${PICTURES.join(', ')} to .exr or .png) and ` +
      `models (${MODELS.join(', ')} to .ply or .glb) can`,
  )
}

export const command: Command = {
  usage: 'wavelume convert IN OUT [--space rec709|acescg] [--unit mm]',
  takes: () => ({ words: 2, options: { space: VALUE, unit: VALUE } }),
  run: convert,
}
