import { z } from 'zod'
import type { PictureCodec } from './delivery'

/** An encoder in a graphics chip. */
export interface HardwareEncoder {
  picture: PictureCodec
  /** What it is called beside the others. */
  label: string
}

/** Encoders in graphics chips that a renderer may find, by ffmpeg's names. */
export const HARDWARE_ENCODERS = {
  h264_vaapi: { picture: 'h264', label: 'the graphics chip (VA-API)' },
  h264_nvenc: { picture: 'h264', label: 'the graphics card (NVENC)' },
  h264_qsv: { picture: 'h264', label: 'the graphics chip (QSV)' },
  hevc_vaapi: { picture: 'h265', label: 'the graphics chip (VA-API)' },
  hevc_nvenc: { picture: 'h265', label: 'the graphics card (NVENC)' },
  hevc_qsv: { picture: 'h265', label: 'the graphics chip (QSV)' },
} as const satisfies Record<string, HardwareEncoder>
export type HardwareId = keyof typeof HARDWARE_ENCODERS

export const hardwareSchema = z.enum(Object.keys(HARDWARE_ENCODERS) as [HardwareId, ...HardwareId[]])
