import { createHash } from 'node:crypto'
import { describe, expect, it } from 'vitest'
import { checkDocument } from '../core/checks'
import { writeGlb } from '../core/formats/models/glb-write'
import { readMtlx, writeMtlx } from '../core/formats/mtlx/mtlx'
import { compileMaterial } from '../core/world/compile-material'
import { sceneSchema } from '../core/scene/document'
import { publishedOf } from '../core/scene/part-values'
import { demoProjects } from './scenes'

describe.each(demoProjects.map(make => [make().name, make] as const))('%s', (_, make) => {
  const project = make()
  it('is the same each time it is made', async () => {
    const hash = async () => {
      const p = make()
      return createHash('sha256')
        .update(await writeGlb(p.model))
        .update(JSON.stringify([p.scene, p.materials]))
        .digest('hex')
    }
    expect(await hash()).toBe(await hash())
  })
  it('has a sound model: named parts, whole triangles, unit normals, nothing that is not a number', () => {
    expect(new Set(project.model.parts.map(p => p.name)).size).toBe(project.model.parts.length)
    for (const p of project.model.parts) {
      const vertices = p.position.length / 3
      expect(p.name).not.toBe('')
      expect(p.index.length % 3).toBe(0)
      expect(p.index.every(i => i < vertices)).toBe(true)
      expect(p.position.every(Number.isFinite)).toBe(true)
      for (let i = 0; i < p.normal.length; i += 3)
        expect(
          Math.abs(Math.hypot(p.normal[i]!, p.normal[i + 1]!, p.normal[i + 2]!) - 1),
          `${p.name}, vertex ${i / 3}`,
        ).toBeLessThan(1e-3)
      if (p.colour) expect(p.colour.length).toBe(vertices * 4)
    }
  })
  it(
    'is a valid scene in which every part wears a material that is there, with own values only of what that ' +
      'publishes',
    () => {
      const scene = sceneSchema.parse({ ...project.scene, model: 'x' })
      expect(scene.parts.map(p => p.name)).toEqual(project.model.parts.map(p => p.name))
      expect(scene.rigs.map(r => r.name)).toContain(scene.lights)
      for (const p of scene.parts) {
        expect(Object.keys(project.materials)).toContain(p.material)
        const published = publishedOf(project.materials[p.material]!).map(x => x.key)
        for (const key of Object.keys(p.values ?? {})) expect(published).toContain(key)
      }
      expect(Object.keys(project.materials).every(m => scene.parts.some(p => p.material === m))).toBe(true)
    },
  )
  it('has materials that compile without a fault, raise no check, and come back from MaterialX as they were', () => {
    for (const [key, d] of Object.entries(project.materials)) {
      expect(compileMaterial(d).faults, key).toEqual([])
      expect(checkDocument(d), key).toEqual([])
      expect(compileMaterial(readMtlx(writeMtlx(d))).source, key).toBe(compileMaterial(d).source)
    }
  })
})
