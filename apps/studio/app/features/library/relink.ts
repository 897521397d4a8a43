import type { useUploads } from './uploadsStore'

/**
 * Gives a source its file again, or another one in its place; clips of it stay. Settles when the file is sent: it is
 * read in after that, and what is wrong with it is said in the library's list.
 */
export async function relink(
  assetId: string,
  file: File,
  projectId: string,
  uploads: ReturnType<typeof useUploads>,
): Promise<void> {
  await uploads.send(file, projectId, crypto.randomUUID(), { replaces: assetId })
}
