import type { Clip } from '../document/clip'
import type { Fit, Reel } from '../document/reel'
import { clipLook, trackLook, type ClipLook } from '../params/clipParams'
import type { Params } from '../params/spec'
import { multiply, rotation, roundMatrix, scaling, sinCosDegrees, translation, type Matrix } from './matrix'
import type { FrameStylePlan, BackgroundFillPlan } from './plan'

/** Source pixels to reel pixels for a picture of another shape. Cover, contain or stretch, centred. */
export function fitMatrix(width: number, height: number, reelWidth: number, reelHeight: number, fit: Fit): Matrix {
  const x = reelWidth / width
  const y = reelHeight / height
  const [sx, sy] =
    fit === 'stretch' ? [x, y] : fit === 'fit' ? [Math.min(x, y), Math.min(x, y)] : [Math.max(x, y), Math.max(x, y)]
  return [sx, 0, 0, sy, (reelWidth - width * sx) / 2, (reelHeight - height * sy) / 2]
}

interface Size {
  width: number
  height: number
}

/** Reel pixels per pixel of a fitted picture, across and down. */
export function fitScale(picture: Size, format: Size, fit: Fit): [number, number] {
  const [x, , , y] = fitMatrix(picture.width, picture.height, format.width, format.height, fit)
  return [x, y]
}

/**
 * Source pixels to reel pixels for a clip at a moment: fitted, flipped, then sized and turned about its anchor, then
 * moved; what the track does comes last, about the middle of the reel.
 */
export function placeMatrix(look: ClipLook, fit: Fit, picture: Size, format: Size): Matrix {
  const { width, height } = format
  const fitted = fitMatrix(picture.width, picture.height, width, height, fit)
  const { position, size, rotation: degrees, stretch, anchor, flipHorizontal, flipVertical } = look
  const ax = fitted[4] + (fitted[0] * picture.width * anchor[0]) / 100
  const ay = fitted[5] + (fitted[3] * picture.height * anchor[1]) / 100
  const sx = (size / 100) * (stretch / 100)
  const sy = size / 100
  let inner = fitted
  // A flip mirrors the picture in itself; it stays where it is.
  if (flipHorizontal) inner = multiply([-1, 0, 0, 1, width, 0], inner)
  if (flipVertical) inner = multiply([1, 0, 0, -1, 0, height], inner)
  if (position[0] === 0 && position[1] === 0 && sx === 1 && sy === 1 && degrees === 0) return inner
  const about = multiply(multiply(rotation(degrees), scaling(sx, sy)), translation(-ax, -ay))
  return multiply(multiply(translation(ax + position[0], ay + position[1]), about), inner)
}

/** What a track's own settings do to reel pixels at a moment of reel time; `null` when they do nothing. */
export function trackMatrix(params: Params, at: number, format: Size): { matrix: Matrix; opacity: number } | null {
  if (Object.keys(params).length === 0) return null
  const { position, size, rotation: degrees, opacity } = trackLook(params, at)
  const [cx, cy] = [format.width / 2, format.height / 2]
  const about = multiply(multiply(rotation(degrees), scaling(size / 100, size / 100)), translation(-cx, -cy))
  return { matrix: multiply(translation(cx + position[0], cy + position[1]), about), opacity: opacity / 100 }
}

/**
 * What a clip's settings make of its outline, or `undefined` when they leave it alone. `scale`: output per reel
 * pixel.
 */
export function frameStylePlan(look: ClipLook, scale: number, track = 1): FrameStylePlan | undefined {
  const { cropLeft, cropRight, cropTop, cropBottom, cropFeather, cornerRadius, border, shadow, reflection } = look
  const bare = !cropLeft && !cropRight && !cropTop && !cropBottom && !cropFeather && !cornerRadius && !border
  if (bare && !shadow && !reflection) return undefined
  const grain = (value: number) => Math.round(value * 65_536) / 65_536
  const [sin, cos] = sinCosDegrees(look.shadowAngle)
  const away = look.shadowDistance * scale * track
  return {
    crop: {
      left: grain(cropLeft / 100),
      right: grain(cropRight / 100),
      top: grain(cropTop / 100),
      bottom: grain(cropBottom / 100),
    },
    feather: grain(cropFeather * scale * track),
    cornerRadius: grain(cornerRadius * scale * track),
    border: grain(border * scale * track),
    borderColour: look.borderColour,
    shadow: shadow
      ? {
          strength: grain(shadow / 100),
          x: grain(cos * away),
          y: grain(sin * away),
          blur: grain(look.shadowBlur * scale * track),
          colour: look.shadowColour,
        }
      : null,
    reflection: reflection
      ? {
          strength: grain(reflection / 100),
          length: grain(look.reflectionLength / 100),
          gap: grain(look.reflectionGap * scale * track),
        }
      : null,
  }
}

/** What is drawn behind a fitted picture, or `undefined` where nothing is or nothing shows. */
export function fillingPlan(
  clip: Clip,
  look: ClipLook,
  picture: Size,
  reel: Reel,
  toOutput: Matrix,
): BackgroundFillPlan | undefined {
  if ((clip.fit ?? reel.fit) !== 'fit' || (clip.kind !== 'media' && clip.kind !== 'reel')) return undefined
  const kind = look.backgroundFill === 'reel' ? reel.backgroundFill : look.backgroundFill
  if (kind === 'none') return undefined
  const { width, height } = reel.format
  if (Math.abs(picture.width * height - picture.height * width) < 2 * Math.max(width, height)) return undefined
  if (kind !== 'blur') return { kind, colour: look.backgroundFillColour }
  return {
    kind,
    matrix: roundMatrix(multiply(toOutput, fitMatrix(picture.width, picture.height, width, height, 'fill'))),
  }
}

/** Where a layer is at moments around its own while the shutter is open; `undefined` when it stands still. */
export function smearPlan(look: ClipLook, frame: number, at: (offset: number) => Matrix): Matrix[] | undefined {
  if (look.shutterAngle <= 0) return undefined
  const open = (frame * look.shutterAngle) / 360
  const samples = Math.round(look.shutterSamples)
  const list = Array.from({ length: samples }, (_, i) => roundMatrix(at(((i + 0.5) / samples - 0.5) * open)))
  const still = list.every((matrix) => matrix.every((value, i) => Math.abs(value - list[0]![i]!) < 1e-4))
  return still ? undefined : list
}

/** A clip's settings at a moment, as numbers that are the same everywhere. */
export const lookAt = (clip: Pick<Clip, 'params'>, clipTime: number): ClipLook => clipLook(clip.params, clipTime)
