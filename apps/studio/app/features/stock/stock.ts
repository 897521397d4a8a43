import { api } from '~/features/ui/api'
import { windowId } from '~/features/ui/windowId'

/** A thing of the stock, as the server lists it. */
export interface StockItem {
  name: string
  title: string
  group: string
  kind: 'sound' | 'still'
  /** 0 for stills. */
  seconds: number
}

/** What is dragged from the stock. */
export interface DraggedStock {
  kind: 'stock'
  item: StockItem
}

/** Has a thing of the stock read in for a project. @returns the id of the source it becomes */
export async function importStock(projectId: string, name: string): Promise<string> {
  const body = { name, windowId: windowId() }
  return (await api<{ id: string }>(`/projects/${projectId}/stock`, 'POST', body)).id
}
