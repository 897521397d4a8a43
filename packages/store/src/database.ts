import { drizzle, type PostgresJsDatabase } from 'drizzle-orm/postgres-js'
import { migrate } from 'drizzle-orm/postgres-js/migrator'
import postgres from 'postgres'
import * as schema from './schema'

export type Database = PostgresJsDatabase<typeof schema>

/** An open connection pool. */
export interface Connection {
  db: Database
  sql: postgres.Sql
  close(): Promise<void>
}

/** Connects to PostgreSQL. @param url such as `postgres://app@127.0.0.1:5611/dusk` */
export function connect(url: string, most = 8): Connection {
  const sql = postgres(url, { max: most, onnotice: () => {} })
  return { db: drizzle(sql, { schema }), sql, close: () => sql.end({ timeout: 2 }) }
}

/** Brings the tables up to date. @param folder where the migrations lie */
export async function migrateDatabase(url: string, folder: string): Promise<void> {
  const sql = postgres(url, { max: 1, onnotice: () => {} })
  try {
    await migrate(drizzle(sql), { migrationsFolder: folder })
  } finally {
    await sql.end()
  }
}
