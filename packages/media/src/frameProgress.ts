/** Has ffmpeg say among its messages, ten times a second, how many frames it has written. */
export const FRAME_PROGRESS_ARGS: readonly string[] = ['-progress', 'pipe:2', '-stats_period', '0.1']

/** Reads what {@link FRAME_PROGRESS_ARGS} bring, line by line. @param heard called with the number of frames so far */
export function frameProgress(heard: (frames: number) => void): (line: string) => void {
  return (line) => {
    const [, frames] = /^frame=\s*(\d+)/.exec(line) ?? []
    if (frames) heard(Number(frames))
  }
}
