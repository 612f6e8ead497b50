// What the core uses of the language's wider platform, the same in a worker and in Node. Nothing of the DOM,
// nothing of Node.
declare class TextDecoder {
  constructor(label?: string, options?: { fatal?: boolean })
  decode(bytes: Uint8Array): string
}
declare class TextEncoder {
  encode(text: string): Uint8Array<ArrayBuffer>
}
declare namespace performance {
  function now(): number
}
declare namespace WebAssembly {
  class Memory {
    constructor(size: { initial: number; maximum: number; shared: boolean })
    readonly buffer: ArrayBuffer
    grow(pages: number): number
  }
  class Module {
    constructor(bytes: Uint8Array)
    readonly module: never
  }
  class Instance {
    constructor(module: Module, imports: Record<string, Record<string, unknown>>)
    readonly exports: Record<string, unknown>
  }
}
