// What does a failure of SQLite or of the disk mean, for a request and for a start?
import { AppError, type ErrorCode } from '#core/base'

/** The code of an error of the driver or of the system, also inside TypeORM's wrapper; null when it has none. */
export function faultCode(e: unknown): string | null {
  if (typeof e !== 'object' || e === null) return null
  const { driverError, code, cause } = e as { driverError?: unknown; code?: unknown; cause?: unknown }
  if (driverError !== undefined && driverError !== e) return faultCode(driverError)
  if (typeof code === 'string') return code
  return cause === undefined ? null : faultCode(cause)
}

const MEANINGS: readonly (readonly [RegExp, ErrorCode])[] = [
  [/^(SQLITE_FULL|ENOSPC|EDQUOT)/, 'storage-full'],
  [/^SQLITE_(BUSY|LOCKED|PROTOCOL)/, 'storage-busy'],
  [/^SQLITE_(CORRUPT|NOTADB)/, 'storage-damaged'],
  [/^(SQLITE_(IOERR|READONLY|CANTOPEN|PERM|NOMEM)|EIO|EROFS|EACCES|EPERM|EMFILE)/, 'storage-failed'],
]

/** A failure of the storage as an AppError of the catalogue; everything else as it is. */
export function storageFault(e: unknown): unknown {
  if (e instanceof AppError) return e
  const code = faultCode(e)
  const meaning = code === null ? undefined : MEANINGS.find(([pattern]) => pattern.test(code))
  if (!meaning) return e
  const error = new AppError(meaning[1])
  error.cause = e
  return error
}

/** Whether a connection that met this failure may have been left in a state that it does not tell. */
export const leavesDoubt = (e: unknown): boolean => /^SQLITE_(?!BUSY|CONSTRAINT)/.test(faultCode(e) ?? '')

/** Why the data file cannot be used, as a sentence that names it and says what to do. */
export function startFault(file: string, e: unknown): Error {
  const code = faultCode(e) ?? ''
  const because = (what: string, todo: string): Error => new Error(`${what} ${todo}`, { cause: e })
  if (/^SQLITE_NOTADB/.test(code))
    return because(
      `“${file}” is not a database of Yoroi.`,
      'Move it away, put a backup in its place, or choose another folder with --data.',
    )
  if (/^SQLITE_CORRUPT/.test(code))
    return because(
      `“${file}” is damaged.`,
      'Run “npm run check -- --data FOLDER” to see what can be read, and put a backup in its place.',
    )
  if (/^SQLITE_(BUSY|LOCKED|PROTOCOL)/.test(code))
    return because(`“${file}” is locked by another program.`, 'Close it and start again.')
  if (/^(SQLITE_FULL|ENOSPC|EDQUOT)/.test(code))
    return because(`There is no space left for “${file}”.`, 'Free some space on that disk and start again.')
  if (/^(SQLITE_(READONLY|CANTOPEN|PERM)|EACCES|EPERM|EROFS)/.test(code))
    return because(
      `“${file}” cannot be written.`,
      'Give this user the right to write it and its folder, or choose another folder with --data.',
    )
  return because(
    `“${file}” could not be opened (${code || (e instanceof Error ? e.message : String(e))}).`,
    'Run “npm run check -- --data FOLDER”, or choose another folder with --data.',
  )
}
