import type { useUploads } from './uploadsStore'

/**
 * Gives a source its file again, or another one for its place. Settles when the file is sent: it is read in after that,
 * what is wrong with it is said in the library's list, and what another file would cost is said before it is used.
 */
export async function relink(
  assetId: string,
  file: File,
  projectId: string,
  uploads: ReturnType<typeof useUploads>,
): Promise<void> {
  await uploads.send(file, projectId, crypto.randomUUID(), { replaces: assetId })
}
