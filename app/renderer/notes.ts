type Note = { kind: 'epoch' | 'drawn'; epoch: number; at: number; took?: number }
/** Where `wavelume benchmark preview` asks the page to note when epochs begin and are drawn. */
export const notes = (window as { wavelumeNotes?: Note[] }).wavelumeNotes
let touched = -Infinity
/** When the artist last changed a value, by the page's clock. */
export const lastTouch = (): number => touched
if (notes)
  addEventListener(
    'input',
    () => {
      touched = performance.now()
    },
    true,
  )
