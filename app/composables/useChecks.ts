import { checkDocument, checkParts } from '../../core/checks'
import type { Finding } from '../../core/checks/finding'
import type { Element } from '../../core/network/document'

/** Runs the checks a little behind the edits; a document is checked once. */
export function useChecks() {
  const bench = useBench()
  const stage = useStage()
  let known = new WeakMap<Element, Finding[]>()
  let timer: ReturnType<typeof setTimeout> | undefined
  const of = (d: Element): Finding[] => {
    let found = known.get(d)
    if (!found) known.set(d, (found = checkDocument(d, file => !stage.isMissing(file))))
    return found
  }
  function run(): void {
    const worn = new Set(bench.scene?.parts.map(p => p.material))
    bench.checks = bench.document ? of(bench.document) : []
    const { scene, state } = bench
    const documents = new Map(Object.entries(state?.materials ?? {}))
    bench.allChecks = [
      ...Object.entries(bench.state?.materials ?? {})
        .filter(([key]) => worn.has(key))
        .flatMap(([material, d]) => of(d).map(finding => ({ material, finding }))),
      ...(scene && state
        ? checkParts(scene.parts, documents, stage.meshFacts).map(finding => ({
            material: scene.parts.find(p => p.name === finding.where)!.material,
            finding,
          }))
        : []),
    ]
  }
  const later = () => {
    clearTimeout(timer)
    timer = setTimeout(run, 250)
  }
  watch(
    () => stage.loaded,
    () => {
      known = new WeakMap()
      later()
    },
  )
  watch([() => bench.state, () => bench.materialKey, () => stage.meshFacts], later, { immediate: true })
  onBeforeUnmount(() => clearTimeout(timer))
}
