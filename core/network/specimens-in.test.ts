import { expect, test } from 'vitest'
import { element, emptyDocument } from './document'
import { specimens } from './specimens'
import { specimensIn } from './specimens-in'

const input = (name: string, type: string, attributes: Record<string, string>) =>
  element('input', { name, type, ...attributes })
const metal = (of: string, ...more: ReturnType<typeof input>[]) =>
  element('wl_metal', { name: 'stock', type: 'surfaceshader' }, [input('metal', 'string', { value: of }), ...more])
const document = (...children: ReturnType<typeof element>[]) => ({ ...emptyDocument(), children })

test('every specimen is found in its own document', () => {
  for (const s of specimens) expect(specimensIn(s.make()), s.title).toContain(s.key)
})

test('a film that is driven, or of another thickness, is the metal alone; inside groups too, each once', () => {
  const film = (attributes: Record<string, string>) => [
    input('film_thickness', 'float', attributes),
    input('film_ior', 'float', { value: '2.4' }),
  ]
  expect(specimensIn(document(metal('titanium', ...film({ value: '48' }))))).toEqual([
    'metal:titanium',
    'film:Titanium, blue',
  ])
  expect(specimensIn(document(metal('titanium', ...film({ nodename: 'heat' }))))).toEqual(['metal:titanium'])
  expect(specimensIn(document(metal('titanium', ...film({ value: '49' }))))).toEqual(['metal:titanium'])
  expect(
    specimensIn(document(element('nodegraph', { name: 'g' }, [metal('gold'), metal('gold')]), metal('gold'))),
  ).toEqual(['metal:gold'])
  expect(specimensIn(document(metal('nothing known')))).toEqual([])
})
