import { readWaveform, type Waveform } from '@dusk/sound'

/** Sheets of film strips and waveforms, fetched when first drawn. `changed` is called when one has come. */
export class TimelineMedia {
  private readonly sheets = new Map<string, ImageBitmap | 'coming' | 'none'>()
  private readonly waves = new Map<string, Waveform | 'coming' | 'none'>()

  constructor(private readonly changed: () => void) {}

  sheet(assetId: string): ImageBitmap | null {
    return this.fetched(this.sheets, assetId, `/api/assets/${assetId}/strip`, async (response) =>
      createImageBitmap(await response.blob()),
    )
  }

  wave(assetId: string, stream: number): Waveform | null {
    return this.fetched(this.waves, `${assetId}/${stream}`, `/api/assets/${assetId}/wave-${stream}`, async (response) =>
      readWaveform(new Uint8Array(await response.arrayBuffer())),
    )
  }

  private fetched<T extends object>(
    map: Map<string, T | 'coming' | 'none'>,
    key: string,
    url: string,
    read: (response: Response) => Promise<T>,
  ): T | null {
    const found = map.get(key)
    if (found === undefined) {
      map.set(key, 'coming')
      fetch(url)
        .then((response) => (response.ok ? read(response) : Promise.reject(new Error(String(response.status)))))
        .then((value) => {
          map.set(key, value)
          this.changed()
        })
        .catch(() => {
          // Asked again when the next event says that something was made.
          map.set(key, 'none')
          setTimeout(() => map.delete(key), 3000)
        })
    }
    return typeof found === 'object' ? found : null
  }
}
