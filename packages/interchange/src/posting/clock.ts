const two = (n: number) => String(n).padStart(2, '0')

/** Seconds as people write a place in a film, to the second: `1:05`, `1:00:05`. */
export function clock(seconds: number): string {
  const whole = Math.floor(seconds)
  const [h, m, s] = [Math.floor(whole / 3600), Math.floor(whole / 60) % 60, whole % 60]
  return h > 0 ? `${h}:${two(m)}:${two(s)}` : `${m}:${two(s)}`
}
