import { shallowRef } from 'vue'
import { api } from '~/features/ui/api'
import type { PendingImport, SourceState } from '~~/server/utils/sources'

/** What a project's sources are known as, and files that are still read in. */
export interface KnownSources {
  sources: Record<string, SourceState>
  pendingImports: PendingImport[]
}

/** States are fetched once for all that is told within this many milliseconds. */
const GATHER_MS = 250
const RETRY_MS = 1500

/** How far the preview files of a project's sources are. */
export class SourceStates {
  readonly sources = shallowRef<Record<string, SourceState>>({})
  readonly pendingImports = shallowRef<PendingImport[]>([])
  private timer: ReturnType<typeof setTimeout> | null = null

  /** @param signal aborted once the project is left */
  constructor(
    private readonly projectId: string,
    private readonly signal: AbortSignal,
  ) {
    signal.addEventListener('abort', () => this.timer && clearTimeout(this.timer))
  }

  take({ sources, pendingImports }: KnownSources): void {
    this.sources.value = sources
    this.pendingImports.value = pendingImports
  }

  /** Asks for them anew, at most a few times a second, and again while the server is away. */
  refresh(after = GATHER_MS): void {
    if (this.signal.aborted) return
    this.timer ??= setTimeout(() => void this.ask(), after)
  }

  private async ask(): Promise<void> {
    this.timer = null
    try {
      const known = await api<KnownSources>(`/projects/${this.projectId}/sources`)
      if (!this.signal.aborted) this.take(known)
    } catch {
      this.refresh(RETRY_MS)
    }
  }
}
