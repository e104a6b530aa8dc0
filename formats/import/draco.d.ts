declare module 'draco3d/draco_decoder_nodejs.js' {
  const createDecoderModule: (options: { wasmBinary: ArrayBuffer }) => Promise<unknown>
  export default createDecoderModule
}
