/** Something that ends soon after its signal is aborted. */
type Task = (signal: AbortSignal) => Promise<unknown>

/** What tasks return, in their order. */
type Results<T extends readonly Task[]> = { -readonly [K in keyof T]: Awaited<ReturnType<T[K]>> }

/**
 * Does several things at once. The first that fails ends the others by the signal that each is given.
 * @param signal ends all of them
 * @returns what they returned, when all have ended: nothing is at work any more when the caller tidies up
 * @throws the signal's reason, or else what failed first
 */
export async function sideBySide<const T extends readonly Task[]>(
  signal: AbortSignal | undefined,
  tasks: T,
): Promise<Results<T>> {
  const stop = new AbortController()
  const joint = signal ? AbortSignal.any([signal, stop.signal]) : stop.signal
  const running = tasks.map((task) => {
    const done = task(joint)
    done.catch((error: Error) => stop.abort(error))
    return done
  })
  const ended = await Promise.allSettled(running)
  signal?.throwIfAborted()
  if (stop.signal.aborted) throw stop.signal.reason
  return ended.map((one) => (one as PromiseFulfilledResult<unknown>).value) as Results<T>
}
