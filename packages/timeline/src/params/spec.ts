import { z } from 'zod'
import { colourSchema } from '../document/values'
import { animatedSchema, valueAt, type Animated, type Point, type Value } from './animated'

interface ParamBase {
  key: string
  label: string
  /** A sentence for the tooltip, where the label does not say it all. */
  hint?: string
  /** Heading it is shown under. */
  group?: string
  /** Key of another setting without which this one has nothing to act on; it is shown once that one is set. */
  needs?: string
  /** Can't have keyframes. */
  fixed?: boolean
  /** Shows something while one works on it: a finished picture always has the default. */
  inspects?: boolean
}

/** A number with its range and unit; stored as it is shown. */
export interface NumberParam extends ParamBase {
  kind: 'number'
  default: number
  min: number
  max: number
  unit?: string
  step?: number
  digits?: number
}
/** A place or a pair of sizes: across and down. */
export interface PointParam extends ParamBase {
  kind: 'point'
  default: Point
  min: number
  max: number
  unit?: string
  step?: number
  digits?: number
  /** Shown as a disc of colours: blue to the right, red upwards, grey in the middle. */
  wheel?: boolean
}
export interface ColourParam extends ParamBase {
  kind: 'colour'
  default: string
}
export interface ChoiceParam extends ParamBase {
  kind: 'choice'
  default: string
  options: readonly { value: string; label: string }[]
}
export interface SwitchParam extends ParamBase {
  kind: 'switch'
  default: boolean
}
export interface TextParam extends ParamBase {
  kind: 'text'
  default: string
  maxLength: number
}
/** A curve through points, as {@link curvePoints} reads them; nothing is the straight line that changes nothing. */
export interface CurveParam extends ParamBase {
  kind: 'curve'
  default: ''
  /** What runs along it: brightness to brightness, or how much of something by hue or by brightness. */
  over: 'tone' | 'hue' | 'luma'
  /** Colour of its line on screen. */
  tint?: string
}
/** A file that was given to the project: its SHA-256, or nothing. */
export interface FileParam extends ParamBase {
  kind: 'file'
  default: ''
  /** Ending of the files it takes. */
  ending: string
}

/** What a setting is: it drives the details panel, the gallery, the docs page, the checks and the drawing. */
export type Param =
  NumberParam | PointParam | ColourParam | ChoiceParam | SwitchParam | TextParam | CurveParam | FileParam

/** Settings that differ from their defaults, by key. */
export type Params = Record<string, Animated>

const CURVE = /^(-?\d(\.\d{1,4})?,-?\d(\.\d{1,4})?( |$)){0,24}$/

/** Schema of what one parameter may hold at a moment. */
export function valueSchema(param: Param): z.ZodType<Value> {
  switch (param.kind) {
    case 'number':
      return z.number().min(param.min).max(param.max)
    case 'point': {
      const part = z.number().min(param.min).max(param.max)
      return z.tuple([part, part])
    }
    case 'colour':
      return colourSchema
    case 'choice':
      return z.enum(param.options.map((option) => option.value))
    case 'switch':
      return z.boolean()
    case 'text':
      return z.string().max(param.maxLength)
    case 'curve':
      return z.string().regex(CURVE, 'expected points such as 0,0 0.5,0.6 1,1')
    case 'file':
      return z.string().regex(/^([0-9a-f]{64})?$/, 'expected the hash of a file')
  }
}

/** Schema of a bag of settings: known keys only, each within its range, with keyframes where it can have them. */
export function paramsSchema(params: readonly Param[]) {
  const shape: Record<string, z.ZodType> = {}
  for (const param of params) {
    const value = valueSchema(param)
    shape[param.key] = (param.fixed ? value : animatedSchema(value)).optional()
  }
  return z.strictObject(shape) as unknown as z.ZodType<Params>
}

/** Settings of something this package has no list of, such as a transition: any keys, values of any kind. */
export const looseParamsSchema: z.ZodType<Params> = z
  .record(
    z.string().regex(/^[a-z][A-Za-z0-9]{0,39}$/, 'expected the name of a setting'),
    animatedSchema(z.union([z.number(), z.boolean(), z.string().max(400), z.tuple([z.number(), z.number()])])),
  )
  .refine((bag) => Object.keys(bag).length <= 60, 'at most 60 settings')

/** A setting at a moment: what was set, held within its range, or the default. Never throws on odd input. */
export function paramAt(param: Param, params: Params, clipTime: number): Value {
  const set = params[param.key]
  if (set === undefined) return param.default
  const value = valueAt(set, clipTime)
  const hold = (n: number, least: number, most: number) => Math.min(Math.max(n, least), most)
  switch (param.kind) {
    case 'number':
      return typeof value === 'number' ? hold(value, param.min, param.max) : param.default
    case 'point':
      return Array.isArray(value)
        ? [hold(value[0], param.min, param.max), hold(value[1], param.min, param.max)]
        : param.default
    case 'choice':
      return param.options.some((option) => option.value === value) ? value : param.default
    case 'colour':
      return colourSchema.safeParse(value).success ? value : param.default
    case 'curve':
    case 'file':
      return valueSchema(param).safeParse(value).success ? value : param.default
    default:
      return typeof value === typeof param.default ? value : param.default
  }
}

/** All settings of a list at a moment, by key. */
export function resolveParams(list: readonly Param[], params: Params, clipTime: number): Record<string, Value> {
  return Object.fromEntries(list.map((param) => [param.key, paramAt(param, params, clipTime)]))
}
