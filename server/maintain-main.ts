// The upkeep commands as a program.
import { maintain } from './maintain.ts'

try {
  process.exitCode = await maintain(process.argv.slice(2), (line) => console.log(line))
} catch (e) {
  console.error(e instanceof Error ? e.message : e)
  process.exitCode = 1
}
