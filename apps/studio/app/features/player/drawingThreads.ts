/**
 * Threads that draw for the viewer. With two processors decoding and the browser need the second one, and hardly more
 * frames were shown; from four on there is one to spare. Another number can be set to measure by.
 */
export function drawingThreads(): number {
  const set = Number(localStorage.getItem('drawing-threads') ?? 0)
  return crossOriginIsolated ? set || (navigator.hardwareConcurrency >= 4 ? 2 : 1) : 1
}
