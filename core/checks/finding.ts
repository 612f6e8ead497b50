/** Something a check found. */
export interface Finding {
  rule: string
  severity: 'info' | 'warning' | 'error'
  /** Path of the node (or name of the part) it concerns. */
  where: string
  message: string
  /** What would mend it, in words. */
  fix: string
}
