import { documentDelta, type DocumentDelta, type Project } from '@dusk/timeline'

/** What a worker holds of a document: it is told only what differs from that. */
export class ToldDocument {
  private held: Project | null = null

  /** @param send hands the difference on */
  constructor(private readonly send: (delta: DocumentDelta) => void) {}

  /** Whether another worker holds the same, so that both can be told alike. */
  like(other: ToldDocument): boolean {
    return this.held === other.held
  }

  /** A new worker holds nothing. */
  forget(): void {
    this.held = null
  }

  /** @param delta where it is known already. @returns it */
  tell(project: Project, delta = documentDelta(this.held, project)): DocumentDelta {
    this.send(delta)
    this.held = project
    return delta
  }
}
