import { PROXY_PIECE } from '@dusk/timeline'

/** How often it is said what is looked at, how soon at first, and for how long that is known then. Milliseconds. */
const TELL_MS = 500
const FIRST_MS = 50
const KNOWN_MS = 5_000

/** Tells the server which frames are looked at before their piece of the proxy is there, so that it is made next. */
export class MissedFrames {
  /** Last frames by the address that hears of them. */
  private readonly wanted = new Map<string, number>()
  private readonly told = new Map<string, { piece: number; at: number }>()
  private timer: ReturnType<typeof setTimeout> | null = null
  private last = -Infinity

  /** @param send tells the server; what fails is told again when it is still looked at */
  constructor(private readonly send: (url: string, frame: number) => Promise<unknown> = post) {}

  /** A frame is shown from the original. @param url where the source hears of it */
  missed(url: string, frame: number): void {
    const piece = Math.floor(frame / PROXY_PIECE)
    const told = this.told.get(url)
    // What another piece was wanted for meanwhile, and not told yet, is not looked at any more.
    const known = told?.piece === piece && Date.now() - told.at < KNOWN_MS
    if (known && !this.wanted.has(url)) return
    this.wanted.set(url, frame)
    // Who seeks waits for it: work that nobody waits for stands back once the server knows.
    this.timer ??= setTimeout(() => this.tell(), Date.now() - this.last > TELL_MS ? FIRST_MS : TELL_MS)
  }

  private tell(): void {
    this.timer = null
    this.last = Date.now()
    for (const [url, frame] of this.wanted) {
      this.told.set(url, { piece: Math.floor(frame / PROXY_PIECE), at: Date.now() })
      this.send(url, frame).catch(() => this.told.delete(url))
    }
    this.wanted.clear()
  }
}

async function post(url: string, frame: number): Promise<void> {
  const headers = { 'content-type': 'application/json' }
  const { ok, status } = await fetch(url, { method: 'POST', headers, body: JSON.stringify({ frame }) })
  if (!ok) throw new Error(`The server did not take what is looked at (${status}).`)
}
