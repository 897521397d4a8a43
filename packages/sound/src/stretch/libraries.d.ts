declare module '@echogarden/sonic-wasm' {
  const load: (options?: { locateFile?: (name: string) => string }) => Promise<import('./crisp').CrispModule>
  export default load
}
declare module '@dusk/sound/smooth-stretch' {
  const load: () => Promise<import('./smooth').SmoothModule>
  export default load
}
