/** Widths of letters of the interface's bold face, em: each is measured once. */
const widths = new Map<string, number>()
/** Size that letters are measured at, pixels. */
const SIZE = 100
let paper: CanvasRenderingContext2D | null = null

function widthOf(letter: string): number {
  const known = widths.get(letter)
  if (known !== undefined) return known
  if (!paper) {
    paper = document.createElement('canvas').getContext('2d')!
    paper.font = `600 ${SIZE}px ${getComputedStyle(document.body).fontFamily}`
  }
  const width = paper.measureText(letter).width / SIZE
  widths.set(letter, width)
  return width
}

/**
 * Text that takes no more room than there is, with an ellipsis where some of it is left out. Style sheets cut text
 * too, but each cut is a clip of its own to the compositor: 300 of them are a third of a canvas' layers.
 * @param room em
 * @param measure width of a letter, em
 */
export function cutText(text: string, room: number, measure: (letter: string) => number = widthOf): string {
  const letters = [...text]
  let fits = 0
  let width = 0
  for (const l of letters) {
    width += measure(l)
    if (width > room) {
      while (fits > 0 && letters.slice(0, fits).reduce((w, x) => w + measure(x), measure('…')) > room) fits--
      return letters.slice(0, fits).join('').trimEnd() + '…'
    }
    fits++
  }
  return text
}
