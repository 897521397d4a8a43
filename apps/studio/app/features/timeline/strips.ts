import { readWaveform, type Waveform } from '@dusk/sound'

/** Sheets of film strips and waveforms, fetched when first drawn. `changed` is called when one has come. */
export class TimelineMedia {
  private readonly sheets = new Map<string, ImageBitmap | 'coming' | 'none'>()
  private readonly waves = new Map<string, Waveform | 'coming' | 'none'>()

  constructor(private readonly changed: () => void) {}

  /** The film strip at an address. */
  sheet(url: string): ImageBitmap | null {
    return this.fetched(this.sheets, url, async (response) => createImageBitmap(await response.blob()))
  }

  /** The waveform at an address. */
  wave(url: string): Waveform | null {
    return this.fetched(this.waves, url, async (response) => readWaveform(new Uint8Array(await response.arrayBuffer())))
  }

  private fetched<T extends object>(
    map: Map<string, T | 'coming' | 'none'>,
    url: string,
    read: (response: Response) => Promise<T>,
  ): T | null {
    const found = map.get(url)
    if (found === undefined) {
      map.set(url, 'coming')
      fetch(url)
        .then((response) => (response.ok ? read(response) : Promise.reject(new Error(String(response.status)))))
        .then((value) => {
          map.set(url, value)
          this.changed()
        })
        .catch(() => {
          // Asked again when the next event says that something was made.
          map.set(url, 'none')
          setTimeout(() => map.delete(url), 3000)
        })
    }
    return typeof found === 'object' ? found : null
  }
}
