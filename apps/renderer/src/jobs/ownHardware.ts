import { proveHardware } from '@dusk/media'
import { HARDWARE_SAID_MS, sayHardware, type Database } from '@dusk/store'
import type { HardwareId } from '@dusk/interchange'
import { WORKER_NAME } from './sharedChunks'

/** The encoders in hardware of this machine: tried once at the start, said again and again as long as it is there. */
export class OwnHardware {
  encoders: readonly HardwareId[] = []
  private timer: ReturnType<typeof setInterval> | undefined

  constructor(private readonly db: Database) {}

  /** Tries them, which takes seconds; until then there are none. */
  async prove(signal: AbortSignal): Promise<void> {
    this.encoders = await proveHardware(signal)
    if (this.encoders.length === 0) return
    const say = () =>
      sayHardware(this.db, WORKER_NAME, this.encoders).catch((error: Error) =>
        console.error(`Saying what hardware there is: ${error.message}`),
      )
    await say()
    this.timer = setInterval(() => void say(), HARDWARE_SAID_MS)
  }

  stop(): void {
    clearInterval(this.timer)
  }
}
