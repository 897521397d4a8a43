import { open, type FileHandle } from 'node:fs/promises'
import { readSoundHeader, soundByteRange, SOUND_HEADER_BYTES, type SoundReader } from '@dusk/sound'
import type { Storage } from '@dusk/media'
import { ARTEFACT_FILES, artefact } from '@dusk/store'
import type { SourceBook } from './sources'

/** Where the canonical sound of a source's stream lies. */
export function soundPath(storage: Storage, hash: string, stream: number): string {
  return storage.artefact(artefact('sound', hash, { stream }).key, ARTEFACT_FILES.sound.samples)
}

/** Reads canonical sounds from storage. */
export class SoundFiles {
  private readonly files = new Map<string, Promise<{ handle: FileHandle; channels: number; samples: number }>>()

  constructor(
    private readonly storage: Storage,
    private readonly book: SourceBook,
  ) {}

  readonly read: SoundReader = async (assetId, stream, from, count) => {
    const { handle, channels, samples } = await this.file(assetId, stream)
    const n = Math.max(0, Math.min(count, samples - from))
    const block = new Float32Array(n * channels)
    if (n > 0)
      await handle.read(new Uint8Array(block.buffer), 0, block.byteLength, soundByteRange(channels, from, n).start)
    return { channels, samples: block }
  }

  private file(assetId: string, stream: number) {
    const key = `${assetId}/${stream}`
    let file = this.files.get(key)
    if (!file) {
      file = this.open(soundPath(this.storage, this.book.get(assetId)!.hash, stream))
      this.files.set(key, file)
    }
    return file
  }

  private async open(path: string) {
    await this.storage.fetch(path)
    const handle = await open(path)
    try {
      const bytes = new Uint8Array(SOUND_HEADER_BYTES)
      await handle.read(bytes, 0, SOUND_HEADER_BYTES, 0)
      return { handle, ...readSoundHeader(bytes) }
    } catch (error) {
      await handle.close()
      throw error
    }
  }

  async close(): Promise<void> {
    for (const file of this.files.values()) await file.then(({ handle }) => handle.close()).catch(() => {})
  }
}
