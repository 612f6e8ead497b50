/** A file that cannot be read: says which format, what is wrong and where. */
export class FormatError extends Error {
  constructor(
    readonly format: string,
    readonly what: string,
    readonly where?: string,
  ) {
    super(`${format}: ${what}${where ? ` (${where})` : ''}`)
    this.name = 'FormatError'
  }
}
