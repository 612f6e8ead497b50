/** Words in the names of pictures, and the inputs that such a picture is for, the first that a surface has. */
const WORDS: readonly { words: RegExp; inputs: readonly string[] }[] = [
  { words: /rough/, inputs: ['specular_roughness', 'roughness', 'coat_roughness'] },
  { words: /normal|nrm|height|bump|disp|relief/, inputs: ['geometry_normal', 'normal'] },
  { words: /metal/, inputs: ['base_metalness'] },
  { words: /opacity|alpha|mask/, inputs: ['geometry_opacity'] },
  { words: /emi(t|ssion|ssive)|glow/, inputs: ['emission_color'] },
]
const COLOUR = ['base_color', 'coat_color', 'color', 'specular_color']

/**
 * The input of a surface that a picture is for, by its name: `stone_rough.png` for the roughness, what says nothing for
 * the colour; undefined where the surface has none of these.
 */
export function inputFor(file: string, inputs: readonly { name: string }[]): string | undefined {
  const name = file.toLowerCase()
  const wanted = WORDS.find(w => w.words.test(name))?.inputs ?? COLOUR
  return wanted.find(w => inputs.some(i => i.name === w))
}
