declare module 'draco3dgltf/draco_decoder_gltf_nodejs.js' {
  /** Makes the decoder. @param options the binary, where the module cannot find it */
  export default function create(options?: { wasmBinary?: ArrayBuffer }): Promise<unknown>
}
declare module 'draco3dgltf' {
  const modules: { createEncoderModule(): Promise<unknown>; createDecoderModule(): Promise<unknown> }
  export default modules
}
declare module 'draco3dgltf/draco_decoder_gltf.wasm?url' {
  const url: string
  export default url
}
