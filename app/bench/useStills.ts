import type ViewPane from '../components/ViewPane.vue'

/** Stills over the live picture: the wipe, the still that is held, the map of differences, and keeping one. */
export function useStills(
  view: Ref<InstanceType<typeof ViewPane> | undefined>,
  size: Readonly<{ width: number; height: number }>,
) {
  const proofs = useProofs()
  const stage = useStage()
  const say = useSay()
  /** Where the wipe stands, as a share of the width; null without one. */
  const wipe = ref<number | null>(null)
  /** Whether still A is held before the live picture. */
  const hold = ref(false)
  /** Whether differences are mapped, and what is said of them. */
  const differ = ref(false)
  const differs = ref('')

  /**
   * Keeps the map of differences current: when what it compares changes, and as the live picture doubles its passes.
   */
  watch(
    [
      differ,
      () => proofs.chosen,
      () => proofs.against,
      size,
      () => stage.look,
      () => Math.floor(Math.log2(Math.max(1, stage.drawn?.passes ?? 0))),
    ],
    async () => {
      const canvas = view.value?.map
      if (!differ.value || !canvas) return
      try {
        differs.value =
          (await proofs.difference(canvas, size.width, size.height)) ??
          'Differences are shown once a still is chosen and the first pass is complete.'
      } catch (e) {
        say.fault('The difference could not be shown', messageOf(e))
      }
    },
    { deep: true, flush: 'post' },
  )
  watch(
    [() => proofs.chosen, size, () => stage.look, wipe, hold],
    () => {
      const canvas = view.value?.still
      if (canvas && (wipe.value !== null || hold.value))
        proofs
          .draw(canvas, size.width, size.height)
          .catch(e => say.fault('The still could not be shown', messageOf(e)))
    },
    { deep: true, flush: 'post' },
  )

  async function keep(): Promise<void> {
    try {
      const p = await proofs.keep()
      say.note(`Kept as proof ${p.number}`)
    } catch (e) {
      say.fault('The proof was not kept', messageOf(e))
    }
  }

  const toggleWipe = () => {
    wipe.value = wipe.value === null ? 0.5 : null
  }
  return { wipe, hold, differ, differs, keep, toggleWipe }
}
