import type { StyleValue } from 'vue'

/** One of several values that can be chosen. */
export interface Choice<T> {
  value: T
  label: string
  /** A line about it, beneath its label. */
  hint?: string
  shortcut?: string
  /** Looks of its label, where it shows by itself what it is. */
  style?: StyleValue
}

/** Lists of more entries than this can be searched. */
export const SEARCHED_FROM = 13
