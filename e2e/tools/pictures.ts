import { writeFileSync } from 'node:fs'
import { join } from 'node:path'
import type { Page } from '@playwright/test'
import type { Studio } from './api'
import { ffmpeg, folder } from './media'

/** Opaque pixels, three bytes each. */
export interface Shot {
  width: number
  height: number
  rgb: Buffer
}

/** The frame under the playhead as the button that saves it gives it. */
export async function captured(page: Page, width = 640, height = 360): Promise<Shot> {
  const [picture] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('button', { name: 'Save this frame as a picture' }).click(),
  ])
  const path = join(folder(), 'frame.png')
  await picture.saveAs(path)
  return { width, height, rgb: ffmpeg('-i', path, '-f', 'rawvideo', '-pix_fmt', 'rgb24', '-') }
}

/** Mean red, green and blue about a place. @param x part of the width, 0 to 1 */
export function averageColour({ width, height, rgb }: Shot, x: number, y: number): [number, number, number] {
  const [cx, cy] = [Math.round(x * width), Math.round(y * height)]
  const sum: [number, number, number] = [0, 0, 0]
  for (let row = cy - 3; row <= cy + 3; row++)
    for (let column = cx - 3; column <= cx + 3; column++)
      for (let c = 0; c < 3; c++) sum[c]! += rgb[(row * width + column) * 3 + c]! / 49
  return sum
}

/** Renders a reel and fetches the file. @returns its path */
export async function renderedFile(
  studio: Studio,
  projectId: string,
  reelId: string,
  settings: { width: number; height: number; rate: { num: number; den: number } },
): Promise<string> {
  const { id } = await studio.call<{ id: string }>(`/projects/${projectId}/renders`, 'POST', {
    ...{ reelId, name: 'test' },
    settings: { quality: 'best', range: null, sound: false, ...settings },
  })
  for (let i = 0; i < 600; i++) {
    const { renders } = await studio.call<{ renders: { id: string; state: string; message: string | null }[] }>(
      '/renders',
    )
    const own = renders.find((entry) => entry.id === id)
    if (own?.state === 'failed') throw new Error(own.message ?? 'The render failed.')
    if (own?.state === 'ready') {
      const path = join(folder(), 'rendered.mp4')
      writeFileSync(path, await studio.file(`/api/renders/${id}/file`))
      return path
    }
    await new Promise((resolve) => setTimeout(resolve, 300))
  }
  throw new Error('The render did not end.')
}
