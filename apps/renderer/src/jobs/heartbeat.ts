/** How often a working job says that it is alive, and how long silence means that its worker is gone. */
export const HEARTBEAT_MS = 5_000
export const SILENCE_MS = 25_000

/**
 * Runs `work` while calling `beat` every few seconds; `beat` returns `false` when the job was lost to another
 * worker.
 */
export async function withHeartbeat<T>(
  beat: () => Promise<boolean>,
  lost: () => void,
  work: () => Promise<T>,
): Promise<T> {
  const timer = setInterval(() => {
    beat().then(
      (mine) => {
        if (!mine) lost()
      },
      () => {},
    )
  }, HEARTBEAT_MS)
  try {
    return await work()
  } finally {
    clearInterval(timer)
  }
}
