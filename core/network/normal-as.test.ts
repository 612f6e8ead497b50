import { expect, it } from 'vitest'
import { mtlx } from '../testing/setup'
import { findElement, inputOf } from './document'
import { normalAs, takeNormalAs } from './normal-as'

const MAP = mtlx(`<image name="i" type="vector3"><input name="file" type="filename" value="a.png"/></image>
  <normalmap name="n" type="vector3"><input name="in" type="vector3" nodename="i"/>
  <input name="scale" type="float" value="0.7"/></normalmap>
  <open_pbr_surface name="s" type="surfaceshader"><input name="geometry_normal" type="vector3" nodename="n"/>
  </open_pbr_surface>`)

it('a picture on a normal is taken as heights instead of normals and back, with its file and its scale', () => {
  expect(normalAs(MAP, 's', 'geometry_normal')).toEqual({ path: 'n', as: 'normals' })
  const relief = takeNormalAs(MAP, 's', 'geometry_normal', 'height')
  const n = findElement(relief, 'n')!
  expect([n.tag, inputOf(n, 'height')?.attributes.nodename, inputOf(n, 'in')]).toEqual(['bump', 'i', undefined])
  expect(inputOf(n, 'scale')?.attributes.value).toBe('0.7')
  expect(findElement(relief, 'i')?.attributes.type).toBe('float')
  expect(inputOf(findElement(relief, 'i')!, 'file')?.attributes.value).toBe('a.png')
  expect(takeNormalAs(relief, 's', 'geometry_normal', 'normals')).toEqual({
    ...MAP,
    children: MAP.children.map(c =>
      c.attributes.name === 'n' ? { ...c, children: [...c.children].reverse() } : c,
    ),
  })
  expect(normalAs(MAP, 'n', 'in')).toBeUndefined()
  expect(() => takeNormalAs(MAP, 'n', 'in', 'height')).toThrow('neither relief nor normals drive in of n')
})
