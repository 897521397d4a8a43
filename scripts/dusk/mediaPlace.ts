import { join, resolve } from 'node:path'

/**
 * Where media are, as the environment of a process says it.
 * @param media what was asked for: a folder, or a bucket such as `s3://films/dusk`; without it the data folder's own
 * @param data the data folder, which keeps here what is used of a bucket
 */
export function mediaEnv(media: string | undefined, data: string): { DUSK_MEDIA: string; DUSK_BUCKET: string } {
  const here = join(data, 'media')
  if (!media) return { DUSK_MEDIA: here, DUSK_BUCKET: '' }
  return media.startsWith('s3:')
    ? { DUSK_MEDIA: here, DUSK_BUCKET: media }
    : { DUSK_MEDIA: resolve(media), DUSK_BUCKET: '' }
}
