import type { Picture } from './picture'

/** Pictures in the order in which a plan's layers are drawn. */
export class Pictures {
  private at = 0

  constructor(private readonly list: readonly (Picture | null)[]) {}

  /** The one that comes next. */
  get first(): Picture | null {
    return this.list[this.at] ?? null
  }

  take(): Picture | null {
    return this.list[this.at++] ?? null
  }
}
