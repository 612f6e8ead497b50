import { existsSync } from 'node:fs'
import { isAbsolute, relative, resolve } from 'node:path'
import { checkDocument, checkParts } from '../../core/checks'
import { createGeometry } from '../../core/scene/geometry'
import { partSizes } from '../../core/scene/part-sizes'
import type { Finding } from '../../core/checks/finding'
import type { Element } from '../../core/network/document'
import { isClosed } from '../../core/mesh/closed'
import { folderOf, readMaterial, readModel } from '../files'
import { readScene } from '../load-scene'
import { FLAG, InputError, type Options } from '../options'
import type { Command } from '../command'

/** `check`: findings in a material document, or in every document of a scene. */
async function check(options: Options): Promise<Finding[]> {
  const file = options.words[0]
  if (file === undefined) throw new InputError('check needs a .mtlx or a .scene.json')
  if (!/\.scene\.json$/i.test(file)) return checkOf(readMaterial(file), folderOf(file))
  const scene = readScene(file)
  const folder = folderOf(file)
  const found: Finding[] = []
  const documents = new Map<string, Element>()
  for (const [key, m] of Object.entries(scene.materials)) {
    if (!m.document) continue
    const path = resolve(folder, m.document)
    const document = readMaterial(path)
    documents.set(key, document)
    found.push(...checkOf(document, folderOf(path)).map(f => ({ ...f, where: `${key}/${f.where}` })))
  }
  for (const p of scene.parts)
    if (!scene.materials[p.material])
      found.push({
        rule: 'missing material',
        severity: 'error',
        where: p.name,
        message: `${p.name} wears ${p.material}, which the scene does not have.`,
        fix: 'Give it another material',
      })
  const model = resolve(folder, scene.model)
  if (existsSync(model)) {
    const { parts } = await readModel(model)
    found.push(
      ...checkParts(scene.parts, documents, {
        closed: new Map(parts.map(p => [p.name, isClosed(p)])),
        mapped: new Map(parts.map(p => [p.name, p.uv.length > 0])),
        sizes: partSizes(createGeometry({ parts })),
      }),
    )
  }
  return found
}

/** Findings of a document whose pictures lie below a folder. */
function checkOf(document: Element, folder: string): Finding[] {
  return checkDocument(document, name => {
    const path = resolve(folder, name)
    return !isAbsolute(name) && !relative(folder, path).startsWith('..') && existsSync(path)
  })
}

export const command: Command = {
  usage: 'wavelume check FILE.mtlx|SCENE.scene.json [--strict] --json',
  takes: () => ({ words: 1, options: { strict: FLAG } }),
  run: check,
}
