/** What is done to parts of the model. */
export function usePartEdits() {
  const bench = useBench()
  const stage = useStage()
  return {
    isHidden: (name: string) => bench.scene?.parts.find(p => p.name === name)?.hidden === true,
    /** Hides a part, or shows it again. */
    toggle: (name: string) =>
      bench.changeScene(`${name} off or on`, s => ({
        ...s,
        parts: s.parts.map(p => (p.name === name ? { ...p, hidden: !p.hidden } : p)),
      })),
    alone(name: string): void {
      bench.partAlone = bench.partAlone === name ? null : name
    },
    /** Fits a part into the picture. */
    frame(name: string): void {
      const c = stage.cameraOn(name)
      if (c) stage.setCamera(c)
    },
  }
}
