// The server as a program of its own, to be killed.
import { spawn } from 'node:child_process'

export interface Program {
  readonly url: string
  /** Ends it as a power cut would. */
  kill(): Promise<void>
  /** Asks it to stop; resolves with its exit code. */
  stop(): Promise<number | null>
}

/** What a start that failed printed, and its exit code. */
export class ProgramEnded extends Error {
  readonly code: number | null
  constructor(code: number | null, text: string) {
    super(text)
    this.code = code
  }
}

export function startProgram(dataDir: string, ...args: readonly string[]): Promise<Program> {
  return new Promise((resolve, reject) => {
    const argv = ['--import', 'tsx', 'server/main.ts', '--data', dataDir, ...args, '--port', '0']
    const child = spawn(process.execPath, argv, { stdio: ['ignore', 'pipe', 'pipe'] })
    let said = ''
    const gone = new Promise<number | null>((r) =>
      child.once('exit', (code) => {
        reject(new ProgramEnded(code, said))
        r(code)
      }),
    )
    child.stderr.on('data', (d: Buffer) => (said += String(d)))
    child.stdout.on('data', (d: Buffer) => {
      const url = /at (http:\/\/\S+)/.exec(String(d))?.[1]
      if (!url) return
      const end = (signal: NodeJS.Signals): Promise<number | null> => (child.kill(signal), gone)
      resolve({ url, kill: async () => void (await end('SIGKILL')), stop: () => end('SIGTERM') })
    })
    child.once('error', reject)
  })
}
