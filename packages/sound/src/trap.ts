/**
 * A compiled module stopped at a fault of its own. What it holds can't be trusted any more: it is thrown away, and what
 * made it stop is not tried again.
 */
export class ModuleTrapped extends Error {
  constructor(what: string, cause: unknown) {
    super(`${what} stopped at a fault of its own.`, { cause })
    this.name = 'ModuleTrapped'
  }
}

/** What a compiled module throws where it would leave its memory, or says itself that it can't go on. */
export function isTrap(error: unknown): boolean {
  for (let at = error; at instanceof Error; at = at.cause)
    if (at.name === 'RuntimeError' || at.name === 'ModuleTrapped') return true
  return false
}

/**
 * A module that is loaded when it is first needed, and anew after it trapped.
 * @param what it is called by in words
 */
export class Renewed<T> {
  private found: Promise<T> | null = null

  constructor(
    private readonly what: string,
    private readonly load: () => Promise<T>,
  ) {}

  /** The module; loaded once for as long as it does not trap. */
  get(): Promise<T> {
    if (this.found) return this.found
    const loading = this.load()
    loading.catch(() => this.found === loading && (this.found = null))
    return (this.found = loading)
  }

  /** Does something with it. @throws {ModuleTrapped} where it traps: the next one who asks gets a fresh one */
  run<R>(act: () => R): R {
    try {
      return act()
    } catch (error) {
      if (!isTrap(error)) throw error
      this.found = null
      throw error instanceof ModuleTrapped ? error : new ModuleTrapped(this.what, error)
    }
  }
}
