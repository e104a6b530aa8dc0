// Settings of the server: flags over environment over defaults, checked before anything starts.
import { z } from 'zod'

export const configSchema = z.object({
  host: z.enum(['127.0.0.1', '::1', 'localhost']).default('127.0.0.1'),
  port: z.coerce.number().int().min(0).max(65_535).default(4780),
  dataDir: z.string().min(1).default('data'),
  /** Largest model or picture taken, bytes. */
  uploadLimitBytes: z.coerce
    .number()
    .int()
    .min(1024)
    .default(512 * 1024 * 1024),
  /** Largest project document taken, bytes. */
  documentLimitBytes: z.coerce
    .number()
    .int()
    .min(1024)
    .default(16 * 1024 * 1024),
  staticDir: z.string().optional(),
  /** Pages that may talk to the server besides its own address (the development server's). */
  extraOrigins: z.array(z.string()).default([]),
  logLevel: z.enum(['silent', 'error', 'warn', 'info', 'debug']).default('warn'),
})
export type Config = z.infer<typeof configSchema>

/** Reads --port, --data, --upload-limit (MB) and YOROI_PORT, YOROI_DATA, YOROI_UPLOAD_LIMIT_MB; throws an Error with a sentence. */
export function readConfig(argv: readonly string[], env: Readonly<Record<string, string | undefined>>): Config {
  const flag = (name: string): string | undefined => {
    const at = argv.findIndex((a) => a === `--${name}` || a.startsWith(`--${name}=`))
    if (at < 0) return undefined
    const a = argv[at]!
    return a.includes('=') ? a.slice(a.indexOf('=') + 1) : (argv[at + 1] ?? '')
  }
  const megabytes = flag('upload-limit') ?? env['YOROI_UPLOAD_LIMIT_MB']
  const raw = {
    port: flag('port') ?? env['YOROI_PORT'],
    dataDir: flag('data') ?? env['YOROI_DATA'],
    uploadLimitBytes: megabytes === undefined ? undefined : Number(megabytes) * 1024 * 1024,
    staticDir: flag('static') ?? env['YOROI_STATIC'],
    extraOrigins: env['YOROI_EXTRA_ORIGINS']?.split(',').filter(Boolean),
    logLevel: flag('log') ?? env['YOROI_LOG'],
  }
  const parsed = configSchema.safeParse(Object.fromEntries(Object.entries(raw).filter(([, v]) => v !== undefined)))
  if (parsed.success) return parsed.data
  const issue = parsed.error.issues[0]!
  throw new Error(`The setting “${issue.path.join('.')}” is not usable: ${issue.message}.`)
}
