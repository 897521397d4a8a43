import { openStorage, storagePlace } from '@dusk/media'
import { connect, ProjectLog, Queue } from '@dusk/store'

function open() {
  const url = process.env.DATABASE_URL
  const place = storagePlace(process.env)
  if (!url || !place) throw new Error('DATABASE_URL and DUSK_MEDIA must be set. ./dusk start does it.')
  const connection = connect(url)
  return {
    connection,
    db: connection.db,
    sql: connection.sql,
    log: new ProjectLog(connection),
    queue: new Queue(url),
    storage: openStorage(place),
  }
}

let services: ReturnType<typeof open> | null = null

/** Database, edit log, queue and storage of this process; opened at first use. */
export function useServices() {
  services ??= open()
  return services
}
