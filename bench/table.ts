/** Median of some numbers. */
export function median(values: readonly number[]): number {
  const sorted = [...values].sort((a, b) => a - b)
  return sorted.length % 2
    ? sorted[(sorted.length - 1) / 2]!
    : (sorted[sorted.length / 2 - 1]! + sorted[sorted.length / 2]!) / 2
}

/** Prints rows in columns, the first one to the left, the others to the right. */
export function table(head: string[], rows: (string | number)[][]): void {
  const text = [
    head,
    ...rows.map((row) => row.map((cell) => (typeof cell === 'number' ? cell.toFixed(cell < 10 ? 2 : 1) : cell))),
  ]
  const widths = head.map((_, i) => Math.max(...text.map((row) => row[i]!.length)))
  for (const row of text)
    console.log(row.map((cell, i) => (i === 0 ? cell.padEnd(widths[i]!) : cell.padStart(widths[i]!))).join('  '))
}

/** Median milliseconds of a piece of work, after a warm-up. */
export function time(work: () => void, runs = 9): number {
  work()
  work()
  const times: number[] = []
  for (let i = 0; i < runs; i++) {
    const began = performance.now()
    work()
    times.push(performance.now() - began)
  }
  return median(times)
}
