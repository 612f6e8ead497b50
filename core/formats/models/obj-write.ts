import type { Model } from '../../mesh/model'
import { withoutCopy } from '../../mesh/transform'

/** Writes a model as Wavefront OBJ, one object a part, with normals and with coordinates where a part has them. */
export function writeObj(model: Model): string {
  const lines: string[] = []
  const counted = { v: 0, vt: 0 }
  for (const part of model.parts) {
    const { name, position, normal, uv, index } = withoutCopy(model, part)
    lines.push(`o ${name.replace(/\s+/g, ' ')}`)
    const write = (word: string, numbers: Float32Array, width: number) => {
      for (let i = 0; i < numbers.length; i += width)
        lines.push(
          `${word} ${Array.from(numbers.subarray(i, i + width), x => Number(x.toPrecision(9))).join(' ')}`,
        )
    }
    write('v', position, 3)
    write('vt', uv, 2)
    write('vn', normal, 3)
    const corner = (v: number): string =>
      `${v + counted.v + 1}/${uv.length ? v + counted.vt + 1 : ''}/${v + counted.v + 1}`
    for (let t = 0; t < index.length; t += 3)
      lines.push(`f ${[0, 1, 2].map(k => corner(index[t + k]!)).join(' ')}`)
    counted.v += position.length / 3
    counted.vt += uv.length / 2
  }
  return lines.join('\n') + '\n'
}
