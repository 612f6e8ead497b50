import { dropOnNode, NoPlace, surfaceAtHand } from '../files/drop-pictures'
import { kindOf, type FileKind } from '../files/kinds'
import { placeImage } from '../files/wire-image'
import { counted } from '../words/counted'
import { labelOf } from '../words/labels'

/** What takes files of each kind, for those that were dropped elsewhere. */
const TAKES: Record<FileKind, string> = {
  picture: 'Pictures go on rows, cards, layers and parts, on the network, and on the panel of lights',
  material: 'Materials go on parts, in their list or in the picture',
  model: 'A model makes a project of its own: drop it on Projects',
  other: 'Pictures (PNG, JPEG, EXR, HDR), materials (MaterialX, zip) and, on Projects, models are read',
}

/** Takes pictures onto a node, and says what became of them. */
export async function takePictures(files: readonly File[], node: string | undefined): Promise<void> {
  const say = useSay()
  const names = files.map(f => f.name).join(', ')
  if (node === undefined) {
    say.fault(`${names} fits nowhere here`, TAKES.picture)
    return
  }
  try {
    const lines = await dropOnNode(files, node)
    say.note(
      lines.length === 1 ? lines.join() : `${lines.length} pictures`,
      lines.length > 1 ? lines.join('; ') : undefined,
    )
  } catch (e) {
    say.fault(e instanceof NoPlace ? `${names} fits nowhere there` : `${names} was not read`, messageOf(e))
  }
}

/** Where files are held, or let go. */
interface Spot {
  /** In words: what will take them. */
  says: string
  /** Takes pictures; none where the place has a way of its own to take files. */
  take?: (files: readonly File[]) => Promise<void>
}

/**
 * Files dropped anywhere on the bench that no part of it takes for itself: none ever leaves the page.
 * @param toCells place on the network of a point of the page, in cells
 */
export function useDrops(toCells: (x: number, y: number) => { x: number; y: number }) {
  const bench = useBench()
  const say = useSay()
  /** What would take the files that are held over the page; null while none are. */
  const held = ref<string | null>(null)

  const onNode = (node: string, what: string): Spot => ({
    says: `onto ${what}`,
    take: files => takePictures(files, node),
  })
  async function ontoCanvas(files: readonly File[], at: { x: number; y: number }): Promise<void> {
    for (const [row, file] of files.entries())
      try {
        const path = await placeImage(file, { x: at.x, y: at.y + row })
        if (path !== undefined) bench.node = path
      } catch (e) {
        say.fault(`${file.name} was not read`, messageOf(e))
      }
  }
  /** What is under a point that takes pictures; undefined where nothing does. */
  function spotOf(e: DragEvent): Spot | undefined {
    const over = e.target instanceof Element ? e.target : null
    const near = (selector: string) => over?.closest<HTMLElement>(selector) ?? undefined
    const row = near('[data-input][data-node]')
    if (row) return { says: `onto ${labelOf(row.dataset.input!)}` }
    const card = near('.vue-flow__node')?.dataset.id
    if (card !== undefined) return onNode(card, card)
    if (near('[data-testid=network]')) {
      const at = toCells(e.clientX, e.clientY)
      return { says: 'as a node of the network', take: files => ontoCanvas(files, at) }
    }
    const named = near('[data-layer]')?.dataset.layer
    const layer = bench.layers.find(l => l.node === named)
    if (layer) return onNode(layer.surface, layer.title)
    const part = near('[data-part]')?.dataset.part
    if (part !== undefined) return { says: `onto ${part}` }
    if (near('[aria-label=Proofs]')) return { says: 'as a reference' }
    if (near('[data-testid=view]')) return { says: 'onto the part under the pointer' }
    const surface = near('[aria-label=Cross-section], [aria-label=Properties]') && surfaceAtHand()
    return surface ? onNode(surface, bench.layers.find(l => l.surface === surface)?.title ?? surface) : undefined
  }
  const withFiles = (e: DragEvent) => e.dataTransfer?.types.includes('Files') === true
  function over(e: DragEvent): void {
    if (!withFiles(e)) return
    e.preventDefault()
    const count = e.dataTransfer!.items.length
    held.value = `${counted(count, 'file')}: ${spotOf(e)?.says ?? 'nothing here takes files'}`
  }
  function drop(e: DragEvent): void {
    // rows, parts, the picture, proofs and panels have theirs
    if (e.defaultPrevented || !withFiles(e)) return
    e.preventDefault()
    const files = [...(e.dataTransfer?.files ?? [])]
    const kinds = new Set(files.map(f => kindOf(f.name)))
    const take = kinds.size === 1 && kinds.has('picture') ? spotOf(e)?.take : undefined
    if (take) {
      void take(files)
      return
    }
    const kind = [...kinds].find(k => k !== 'picture') ?? 'picture'
    say.fault(`${files.map(f => f.name).join(', ')} fits nowhere here`, TAKES[kind])
  }
  const leave = (e: DragEvent) => {
    if (e.relatedTarget === null) held.value = null
  }
  // what takes its own files stops the event, and nothing is held any more
  const done = () => {
    held.value = null
  }
  onMounted(() => {
    addEventListener('drop', done, true)
    addEventListener('dragover', over)
    addEventListener('dragleave', leave)
    addEventListener('drop', drop)
  })
  onBeforeUnmount(() => {
    removeEventListener('drop', done, true)
    removeEventListener('dragover', over)
    removeEventListener('dragleave', leave)
    removeEventListener('drop', drop)
  })
  return held
}
