import type { Param } from './spec'

/** What a number among an effect's settings may say of itself besides its range. */
export interface NumberRest {
  unit?: string
  digits?: number
  step?: number
  hint?: string
  group?: string
}

/** A number among an effect's settings. */
export const numberParam = (
  key: string,
  label: string,
  min: number,
  max: number,
  initial: number,
  rest: NumberRest = {},
): Param => ({ kind: 'number', key, label, min, max, default: initial, ...rest })

/** A part of the whole, in per cent. */
export const percentParam = (key: string, label: string, initial: number, max = 100, rest: NumberRest = {}) =>
  numberParam(key, label, 0, max, initial, { unit: '%', digits: 0, ...rest })
