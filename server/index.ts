// Door of the server: for the program, the demo's start and the tests.
export { readConfig, configSchema, type Config } from './config.ts'
export { startServer, type Running } from './start.ts'
export { maintain } from './maintain.ts'
