// A plugin of the build: names of slots (the objects of the files called slots.ts, and of those listed below)
// become the numbers that they stand for, so that the render loop's arithmetic on flat arrays is what it would be
// with numbers.
import { readdirSync, readFileSync } from 'node:fs'
import { dirname, join } from 'node:path'
import { fileURLToPath } from 'node:url'

const core = join(dirname(fileURLToPath(import.meta.url)), '../core')

/** Files whose objects of constants are inlined. */
const files = readdirSync(core, { recursive: true, encoding: 'utf8' }).filter(f => /(slots|kinds)\.ts$/.test(f))

/** Numbers by object and key, such as `LOBE.alpha`. @param {string} source @returns {[string, number][]} */
export const slotsOf = source =>
  [...source.matchAll(/^export const ([A-Z_]+) = (\{[\s\S]*?\}) as const$/gm)].flatMap(([, name, body]) =>
    Object.entries(new Function(`return ${body}`)()).map(([key, number]) => [`${name}.${key}`, number]),
  )

const slots = new Map(files.flatMap(f => slotsOf(readFileSync(join(core, f), 'utf8'))))

/** Replaces the names in a module that imports them. @param {string} code @returns {string} */
export const inlineSlots = code =>
  code.replace(/(?<![\w.$])([A-Z_]{2,})\.([a-zA-Z]\w*)(?![\w(])/g, (text, name, key) => {
    const number = slots.get(`${name}.${key}`)
    return number === undefined || !new RegExp(`import \\{[^}]*\\b${name}\\b[^}]*\\} from`).test(code)
      ? text
      : String(number)
  })

/** The Vite plugin. @returns {import('vite').Plugin} */
export const inlineSlotsPlugin = () => ({
  name: 'inline-slots',
  enforce: 'pre',
  transform: (code, id) =>
    /\/core\/.*\.ts$/.test(id) && !/slots\.ts|kinds\.ts/.test(id) ? { code: inlineSlots(code), map: null } : null,
})
