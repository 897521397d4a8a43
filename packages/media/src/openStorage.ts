import { BucketStorage } from './bucketStorage'
import { FolderStorage, type Storage, type StoragePlace } from './storage'

/** Opens the storage at a place. */
export function openStorage({ folder, bucket }: StoragePlace): Storage {
  return bucket ? new BucketStorage(folder, bucket) : new FolderStorage(folder)
}

/**
 * Where the media of this process are, from its environment: `DUSK_MEDIA`, a folder of this machine, and `DUSK_BUCKET`
 * where it stands before a bucket.
 * @returns `null` when no folder is named
 */
export function storagePlace(env: NodeJS.ProcessEnv): StoragePlace | null {
  return env.DUSK_MEDIA ? { folder: env.DUSK_MEDIA, bucket: env.DUSK_BUCKET || null } : null
}
