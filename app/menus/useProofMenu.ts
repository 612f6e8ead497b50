import type { MenuItem } from './menu-item'
import type { Proof } from '../../shared/api'

/** What is done to a proof. */
interface ProofEdits {
  star(p: Proof): void
  restore(id: string): void
  download(p: Proof, as: 'exr' | 'png'): void
  compareWith(id: string): void
  remove(id: string): void
}

/** Menu of a proof. */
export function useProofMenu(edits: ProofEdits) {
  const proofs = useProofs()
  return (at: Element): MenuItem[] => {
    const id = at.closest<HTMLElement>('[data-proof]')?.dataset.proof
    const p = proofs.list.find(x => x.id === id)
    if (!p) return []
    return [
      { type: 'label', label: p.name },
      {
        label: 'As A',
        disabled: proofs.chosen === p.id,
        onSelect: () => {
          proofs.chosen = p.id
        },
      },
      { label: proofs.against === p.id ? 'Not as B' : 'As B', onSelect: () => edits.compareWith(p.id) },
      { label: p.star ? 'No star' : 'Star', onSelect: () => edits.star(p) },
      ...(p.kind === 'proof' ? [{ label: 'Restore what made it', onSelect: () => edits.restore(p.id) }] : []),
      { label: 'Save as EXR', onSelect: () => edits.download(p, 'exr') },
      { label: 'Save as PNG', onSelect: () => edits.download(p, 'png') },
      { label: 'Remove', onSelect: () => edits.remove(p.id) },
    ]
  }
}
