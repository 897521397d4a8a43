/**
 * Threads that draw for the viewer. With two processors decoding needs the second one, and dividing the drawing was
 * measured to show fewer frames; from four on there is one to spare. Another number can be set to measure by.
 */
export function drawingThreads(): number {
  const set = Number(localStorage.getItem('drawing-threads') ?? 0)
  return crossOriginIsolated ? set || (navigator.hardwareConcurrency >= 4 ? 2 : 1) : 1
}
