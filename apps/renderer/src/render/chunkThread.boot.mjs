// Threads don't inherit what lets this program run its TypeScript as it is.
import { register } from 'tsx/esm/api'

register()
await import('./chunkThread.ts')
