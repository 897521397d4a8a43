import type { EffectStage } from '../stage'

/**
 * Draws the picture anew: for each corner of a grid, where it looks, in pixels of the sheet.
 * @param fine how many times as fine as usual the grid is, for what bends within few pixels
 * @param empty whether nothing is drawn where it looks beyond the picture; else the picture's edge goes on there
 */
export function bent(
  stage: EffectStage,
  look: (x: number, y: number) => [number, number],
  { fine = 1, empty = false } = {},
): void {
  const { picture, engine } = stage
  const { kernels, heap } = engine
  const cell = Math.max(fine > 1 ? 2 : 4, Math.round(picture.width / (120 * fine)))
  const columns = Math.ceil(picture.width / cell) + 1
  const rows = Math.ceil(picture.height / cell) + 1
  const grid = heap.allocate(columns * rows * 12)
  const values = heap.floats(grid, columns * rows * 3)
  for (let j = 0, i = 0; j < rows; j++)
    for (let k = 0; k < columns; k++, i += 3) {
      const [u, v] = look(k * cell, j * cell)
      values[i] = u
      values[i + 1] = v
      values[i + 2] = 1
    }
  const copy = stage.copy()
  kernels.fill(picture.address(), stage.pixels, 0)
  const { width, height } = picture
  kernels.drawMesh(
    copy.address(),
    width,
    height,
    picture.address(),
    width,
    height,
    grid,
    cell,
    columns,
    1,
    empty ? 0 : 1,
    0,
    height,
  )
  heap.release(grid)
  copy.release()
}
