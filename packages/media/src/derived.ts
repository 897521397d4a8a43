import type { Storage } from './storage'

/**
 * Names of the files made from an original. A new way of making one gets a new name, so that old ones are not taken
 * for it.
 */
export const DERIVED = {
  proxy: 'proxy-1.mp4',
  stillFull: 'still-1.rgba',
  stillProxy: 'still-small-1.rgba',
  sound: (stream: number) => `sound-1-${stream}.pcm`,
  waveform: (stream: number) => `wave-1-${stream}.bin`,
  strip: (type: string) => `strip-1.${type}`,
} as const

/** Paths of one source's files. */
export function sourcePaths(storage: Storage, hash: string) {
  return {
    original: storage.original(hash),
    proxy: storage.derived(hash, DERIVED.proxy),
    stillFull: storage.derived(hash, DERIVED.stillFull),
    stillProxy: storage.derived(hash, DERIVED.stillProxy),
    sound: (stream: number) => storage.derived(hash, DERIVED.sound(stream)),
    waveform: (stream: number) => storage.derived(hash, DERIVED.waveform(stream)),
    strip: (type: string) => storage.derived(hash, DERIVED.strip(type)),
  }
}
