// Copies what the core needs out of the published tables in ../shared/reference into core/, unchanged.
//   node scripts/bundle.mjs scripts/make-tables.ts
import { readFileSync, writeFileSync } from 'node:fs'

const reference = (name: string) => JSON.parse(readFileSync(`../shared/reference/${name}`, 'utf8'))
const cie = reference('cie.json')
const observer = cie.observer['CIE1931-2deg-XYZ']
const d65 = cie.illuminants['CIE-D65']
const a = cie.illuminants['CIE-A']
writeFileSync(
  'core/colour/tables.json',
  JSON.stringify({
    source: 'CIE 015: 1931 2 degree observer and illuminants D65 and A',
    observer: {
      start: observer.start,
      step: observer.step,
      x: observer.rows[0],
      y: observer.rows[1],
      z: observer.rows[2],
    },
    d65: { start: d65.start, step: d65.step, values: d65.rows[0] },
    a: { start: a.start, step: a.step, values: a.rows[0] },
  }),
)
const constants = reference('optical-constants.json')
writeFileSync('core/optics/constants.json', JSON.stringify(constants))

const supported = readFileSync('core/nodes/supported.txt', 'utf8').split(/\s+/).filter(Boolean)
const definitions = reference('nodedefs.json').nodedefs.filter(
  (d: { node: string; name: string }) =>
    supported.includes(d.node) && !/matrix|volume|(mix|add|multiply)_vdf|filename|string$/i.test(d.name),
)
writeFileSync(
  'core/nodes/standard.json',
  JSON.stringify({
    source: 'MaterialX 1.39.4 standard data libraries (open standard): names, types, defaults',
    definitions: [
      ...definitions,
      {
        name: 'ND_open_pbr_surface_surfaceshader',
        node: 'open_pbr_surface',
        nodegroup: 'pbr',
        inputs: reference('open_pbr_surface.json').inputs,
        outputs: [{ name: 'out', type: 'surfaceshader' }],
      },
    ].filter(
      (d: { node: string; inputs: unknown[] }, i, all) => d.node !== 'open_pbr_surface' || i === all.length - 1,
    ),
  }),
)
