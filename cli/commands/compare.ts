import { writeFileSync } from 'node:fs'
import { linearRec709 } from '../../core/formats/pictures/linear'
import { writePng } from '../../core/formats/pictures/png'
import { readPicture } from '../../core/formats/pictures'
import { comparePictures, type Comparison } from '../../core/judge/compare'
import { readBytes } from '../files'
import { InputError, OUTPUT, type Options, VALUE, checkOutput } from '../options'
import type { Command } from '../command'

const METRICS: readonly string[] = ['rmse', 'psnr', 'deltaE2000'] satisfies (keyof Comparison)[]

/** Reads a picture as linear Rec.709; bytes are taken as sRGB. */
export const readLinear = (file: string) => linearRec709(readPicture(readBytes(file)))

/** `wavelume compare`. */
function compare(o: Options): unknown {
  const [a, b] = o.words
  if (!a || !b) throw new InputError('compare needs two pictures')
  const wanted = o.text('metric')?.split(',')
  for (const m of wanted ?? [])
    if (!METRICS.includes(m)) throw new InputError(`there is no metric ${m}; known are ${METRICS.join(', ')}`)
  const out = o.text('output')
  if (out !== undefined) checkOutput(out, ['.png'])
  const p = readLinear(a)
  const q = readLinear(b)
  if (p.width !== q.width || p.height !== q.height)
    throw new InputError(`the pictures differ in size: ${p.width} × ${p.height} and ${q.width} × ${q.height}`)
  const difference = new Float32Array(p.width * p.height)
  const result = comparePictures(p.rgb, q.rgb, difference)
  // ΔE2000 as grey: white is a difference of 25.5
  if (out)
    writeFileSync(
      out,
      writePng(
        p.width,
        p.height,
        Uint8Array.from({ length: difference.length * 3 }, (_, i) =>
          Math.min(255, difference[Math.floor(i / 3)]! * 10),
        ),
        3,
      ),
    )
  return wanted
    ? Object.fromEntries(Object.entries(result).filter(([k]) => wanted.includes(k)))
    : { ...result, psnr: Number.isFinite(result.psnr) ? result.psnr : null }
}

export const command: Command = {
  usage: 'wavelume compare A B [--metric rmse,psnr,deltaE2000] [-o difference.png] --json',
  takes: () => ({ words: 2, options: { metric: VALUE, output: OUTPUT } }),
  run: compare,
}
