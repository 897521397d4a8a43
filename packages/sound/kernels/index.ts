// What every block of a mix goes through, with both channels or four samples side by side.
export * from './block'
export { COEFFICIENTS, filter, STATES } from './filter'
export { compress, COMPRESSOR } from './compress'
export { between, HISTORY, PEAKS, TAPS } from './between'
export { add, INPUT } from './add'
