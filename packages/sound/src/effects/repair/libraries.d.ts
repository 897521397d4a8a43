declare module '@echogarden/rnnoise-wasm' {
  const load: (options?: { locateFile?: (name: string) => string }) => Promise<import('./voiceModel').VoiceModule>
  export default load
}
