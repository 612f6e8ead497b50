// Writes core/surface/lobes/dispatch.ts, the switches over all lobes, from the list in kinds.ts: node
// scripts/write-dispatch.mjs The engine puts a function that is called by name into its caller, and one that is
// called from a list it does not.
import { readFileSync, writeFileSync } from 'node:fs'
import { dirname, join } from 'node:path'
import { fileURLToPath } from 'node:url'

const folder = join(dirname(fileURLToPath(import.meta.url)), '../core/surface/lobes')

/** Switches: name, method of a lobe, what it takes besides the offset, what it gives, what it is for. */
const SWITCHES = [
  ['evaluateLobe', 'evaluate', '', 'void'],
  ['sampleByLobe', 'sample', '', 'boolean'],
  ['lobeAnswers', 'answers', '', 'boolean'],
  ['pickOfLobe', 'pick', '', 'number'],
  ['albedoOfLobe', 'albedo', 'channel', 'number'],
  ['roughnessOfLobe', 'roughness', '', 'number'],
]

const camel = name => name.replace(/-./g, m => m[1].toUpperCase())

/** Text of dispatch.ts. @param {string} kinds text of kinds.ts @returns {string} */
export function dispatchText(kinds) {
  const names = [...kinds.matchAll(/^ {2}'([a-z-]+)': \d+,$/gm)].map(m => m[1])
  const imports = [...names].sort().map(n => `import * as ${camel(n)} from './${n}'`)
  const switches = SWITCHES.map(([name, method, more, gives]) => {
    const call = lobe => `return ${lobe}.${method}(o${more ? `, ${more}` : ''})`
    const cases = names.map(n => `    case KIND${/-/.test(n) ? `['${n}']` : `.${n}`}:\n      ${call(camel(n))}`)
    return [
      `export function ${name}(kind: number, o: number${more ? `, ${more}: number` : ''}): ${gives} {`,
      '  switch (kind) {',
      ...cases,
      '    default:',
      `      ${call('registeredLobe(kind)')}`,
      '  }',
      '}',
    ].join('\n')
  })
  return `/** The switches over all lobes, written by scripts/write-dispatch.mjs; lobes that were registered are their default. */
import { registeredLobe, type Lobe } from '../lobe'
${imports.join('\n')}
import { KIND } from './kinds'

/** The lobes of the list, by number. */
const LISTED: readonly Lobe[] = [
${names.map(n => `  ${camel(n)},`).join('\n')}
]

/** A lobe by the number of its kind. */
export const lobeOfKind = (kind: number): Lobe => LISTED[kind] ?? registeredLobe(kind)

const PASSAGES = Int32Array.from(LISTED, lobe => lobe.passage)
/** What becomes of light that passes a lobe of a kind. */
export const passageOfLobe = (kind: number): number =>
  kind < PASSAGES.length ? PASSAGES[kind]! : registeredLobe(kind).passage

${switches.join('\n\n')}
`
}

if (process.argv[1] === fileURLToPath(import.meta.url))
  writeFileSync(join(folder, 'dispatch.ts'), dispatchText(readFileSync(join(folder, 'kinds.ts'), 'utf8')))
