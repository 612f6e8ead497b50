import type { ProjectState } from '../../shared/api'
import type { Element } from '../../core/network/document'
import { BASE, lanternId } from './browser'

/** A document of a surface and chains of nodes that feed it on a grid. @param count of its cards */
function manyNodes(count: number): Element {
  const input = (name: string, type: string, more: Record<string, string>): Element => ({
    tag: 'input',
    attributes: { name, type, ...more },
    children: [],
  })
  const at = (i: number) => ({ xpos: String(i % 12), ypos: String(Math.floor(i / 12) * 1.1) })
  const chain = Array.from({ length: count - 2 }, (_, i): Element =>
    i % 7 === 0
      ? {
          tag: 'fractal3d',
          attributes: { name: `n${i}`, type: 'float', ...at(i) },
          children: [input('octaves', 'integer', { value: '2' })],
        }
      : {
          tag: ['add', 'multiply', 'smoothstep', 'contrast', 'invert', 'absval'][(i % 7) - 1]!,
          attributes: { name: `n${i}`, type: 'float', ...at(i) },
          children: [input(i % 7 < 3 ? 'in1' : 'in', 'float', { nodename: `n${i - 1}` })],
        },
  )
  return {
    tag: 'materialx',
    attributes: { version: '1.39', colorspace: 'lin_rec709' },
    children: [
      ...chain,
      {
        tag: 'open_pbr_surface',
        attributes: { name: 'stock', type: 'surfaceshader', ...at(count - 2) },
        children: [input('specular_roughness', 'float', { nodename: `n${count - 3}` })],
      },
      {
        tag: 'surfacematerial',
        attributes: { name: 'm', type: 'material', ...at(count - 1) },
        children: [input('surfaceshader', 'surfaceshader', { nodename: 'stock' })],
      },
    ],
  }
}

/** Makes a project of the demo lantern whose enamel has a network of many cards, for some work, and removes it. */
export async function withManyCards<T>(count: number, work: (id: string) => Promise<T>): Promise<T> {
  const lantern = await lanternId()
  const { state } = (await (await fetch(`${BASE}/api/projects/${lantern}`)).json()) as { state: ProjectState }
  const next: ProjectState = { ...state, materials: { ...state.materials, 'Chipped enamel': manyNodes(count) } }
  const { id } = (await (
    await fetch(`${BASE}/api/projects`, {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify({ name: `${count} cards`, state: next }),
    })
  ).json()) as { id: string }
  try {
    return await work(id)
  } finally {
    await fetch(`${BASE}/api/projects/${id}`, { method: 'DELETE' })
  }
}
