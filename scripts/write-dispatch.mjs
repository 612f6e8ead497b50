// Writes the switches over all lobes and over all shapes of lights, each from its list:
//   node scripts/write-dispatch.mjs
// The engine puts a function that is called by name into its caller, and one that is called from a list it does not.
import { readFileSync, writeFileSync } from 'node:fs'
import { dirname, join } from 'node:path'
import { fileURLToPath } from 'node:url'
import { format, resolveConfig } from 'prettier'

const core = join(dirname(fileURLToPath(import.meta.url)), '../core')

const RAY = 'p: Float64Array, o: number, origin: Float64Array, direction: Float64Array, at: number'

/** What is dispatched: its list, where it goes, and the switches: name, method, arguments, result. */
export const DISPATCHED = {
  lobes: {
    list: 'surface/lobes/kinds.ts',
    to: 'surface/lobes/dispatch.ts',
    what: 'lobes',
    object: 'KIND',
    type: 'Lobe',
    registered: 'registeredLobe',
    named: ['UNDER_COAT'],
    listOf: './kinds',
    room: '../lobe',
    more: `
const PASSAGES = Int32Array.from(LISTED, lobe => lobe.passage)
/** What becomes of light that passes a lobe of a kind. */
export const passageOfLobe = (kind: number): number =>
  kind < PASSAGES.length ? PASSAGES[kind]! : registeredLobe(kind).passage

const UNDER_COATS = Int32Array.from(LISTED, lobe => lobe.underCoat ?? UNDER_COAT.scatters)
/** How a lobe of a kind answers light that a coat above throws back to it. */
export const underCoatOfLobe = (kind: number): number =>
  kind < UNDER_COATS.length ? UNDER_COATS[kind]! : (registeredLobe(kind).underCoat ?? UNDER_COAT.scatters)

const BEHIND = LISTED.map(lobe => lobe.behind === true)
/** Whether a lobe of a kind answers light that comes from behind the surface. */
export const answersBehind = (kind: number): boolean =>
  kind < BEHIND.length ? BEHIND[kind]! : registeredLobe(kind).behind === true
`,
    switches: [
      ['evaluateLobe', 'evaluate', 'o: number', 'void'],
      ['sampleByLobe', 'sample', 'o: number', 'boolean'],
      ['lobeAnswers', 'answers', 'o: number', 'boolean'],
      ['pickOfLobe', 'pick', 'o: number', 'number'],
      ['albedoOfLobe', 'albedo', 'o: number, channel: number', 'number'],
      ['roughnessOfLobe', 'roughness', 'o: number', 'number'],
    ],
  },
  shapes: {
    list: 'scene/shape-kinds.ts',
    to: 'light/shapes/dispatch.ts',
    what: 'shapes of lights',
    object: 'SHAPE',
    type: 'LightShape',
    registered: 'registeredShape',
    named: [],
    listOf: '../../scene/shape-kinds',
    room: '../shape',
    more: '',
    switches: [
      ['weighShape', 'weigh', 'p: Float64Array, o: number, point: Float64Array, at: number', 'void'],
      ['sampleShape', 'sample', 'p: Float64Array, o: number, S: Float64Array', 'boolean'],
      ['densityOfShape', 'density', RAY, 'void'],
      ['hitShape', 'hit', RAY, 'boolean'],
      ['fadeOfShape', 'fade', 'p: Float64Array, o: number', 'number'],
    ],
  },
}

const camel = name => name.replace(/-./g, m => m[1].toUpperCase())

/** Text of a file of switches. @param {keyof typeof DISPATCHED} which @param {string} list text of its list */
export async function dispatchText(which, list) {
  const { what, object, type, registered, named, listOf, room, more, switches } = DISPATCHED[which]
  const names = [...list.matchAll(/^ {2}'?([a-z-]+)'?: \d+,$/gm)].map(m => m[1])
  const imports = [...names].sort().map(n => `import * as ${camel(n)} from './${n}'`)
  const functions = switches.map(([name, method, parameters, gives]) => {
    const passed = parameters.replace(/: \w+/g, '')
    const call = of => `return ${of}.${method}(${passed})`
    return [
      `export function ${name}(kind: number, ${parameters}): ${gives} {`,
      '  switch (kind) {',
      ...names.map(n => `    case ${object}${/-/.test(n) ? `['${n}']` : `.${n}`}:\n      ${call(camel(n))}`),
      '    default:',
      `      ${call(`${registered}(kind)`)}`,
      '  }',
      '}',
    ].join('\n')
  })
  const text = `/** The switches over all ${what}, by scripts/write-dispatch.mjs; what was registered is the default. */
import { ${object} } from '${listOf}'
import { ${[registered, ...named, `type ${type}`].join(', ')} } from '${room}'
${imports.join('\n')}

/** Those of the list, by number. */
const LISTED: readonly ${type}[] = [
${names.map(n => `  ${camel(n)},`).join('\n')}
]

/** One of them by the number of its kind. */
export const ${type[0].toLowerCase()}${type.slice(1)}OfKind = (kind: number): ${type} =>
  LISTED[kind] ?? ${registered}(kind)
${more}
${functions.join('\n\n')}
`
  return format(text, { ...(await resolveConfig(join(core, 'package.json'))), parser: 'typescript' })
}

if (process.argv[1] === fileURLToPath(import.meta.url))
  for (const [which, { list, to }] of Object.entries(DISPATCHED))
    writeFileSync(join(core, to), await dispatchText(which, readFileSync(join(core, list), 'utf8')))
