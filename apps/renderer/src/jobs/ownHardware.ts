import { proveHardware } from '@dusk/media'
import { HARDWARE_SAID_MS, sayHardware, type Database } from '@dusk/store'
import type { HardwareId } from '@dusk/interchange'
import { WORKER_NAME } from './sharedChunks'

/** The encoders in hardware of this machine: tried once at the start, said again and again as long as it is there. */
export class OwnHardware {
  encoders: readonly HardwareId[] = []
  /** Settles once all were tried, which takes seconds; until then there are none. */
  readonly tried: Promise<void>

  constructor(
    private readonly db: Database,
    stopping: AbortSignal,
  ) {
    this.tried = this.tryAll(stopping).catch((error: Error) => {
      if (!stopping.aborted) console.error(`Trying encoders in hardware: ${error.message}`)
    })
  }

  private async tryAll(stopping: AbortSignal): Promise<void> {
    this.encoders = await proveHardware(stopping)
    if (this.encoders.length === 0) return
    const say = () =>
      sayHardware(this.db, WORKER_NAME, this.encoders).catch((error: Error) =>
        console.error(`Saying what hardware there is: ${error.message}`),
      )
    const timer = setInterval(() => void say(), HARDWARE_SAID_MS)
    stopping.addEventListener('abort', () => clearInterval(timer), { once: true })
    await say()
  }
}
