/** Names of the parts that are left out: those switched off, or all but the one shown alone. */
export const hiddenParts = (
  parts: readonly { name: string; hidden?: boolean }[],
  alone: string | null,
): string[] => parts.filter(p => (alone !== null ? p.name !== alone : p.hidden)).map(p => p.name)
