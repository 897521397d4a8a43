// A second thread for the tests: Node's threads take TypeScript only once its loader is there.
import { workerData } from 'node:worker_threads'
import { register } from 'tsx/esm/api'

register()
const { joinBands } = await import('../src/index.ts')
await joinBands(workerData)
