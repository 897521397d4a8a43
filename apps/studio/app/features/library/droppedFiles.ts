import { fromEvent } from 'file-selector'

/** Files of a drop; folders give all that is in them, hidden files aside. Must be called while the drop is handled. */
export async function droppedFiles(dropped: Pick<DataTransfer, 'items' | 'files'> | null): Promise<File[]> {
  if (!dropped) return []
  const found = await fromEvent({ type: 'drop', dataTransfer: dropped } as unknown as Event)
  return found.filter((file): file is typeof file & File => file instanceof File && !file.name.startsWith('.'))
}
