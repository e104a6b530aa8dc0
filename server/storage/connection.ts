import type Sqlite from 'better-sqlite3'
import type { DataSource } from 'typeorm'

/** The driver's own connection behind a data source: asked for what the ORM does not tell, above all whether a transaction is open. */
export const connectionOf = (source: DataSource): Sqlite.Database =>
  (source.driver as unknown as { databaseConnection: Sqlite.Database }).databaseConnection
