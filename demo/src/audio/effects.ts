import { add, noise, silence } from './synth'

/** Six sounds for the stock, by name. */
export const EFFECTS: Record<string, () => Float32Array> = {
  whoosh() {
    const out = silence(1.2)
    const air = noise(
      11,
      (t) => 300 + 3600 * Math.sin((Math.PI * Math.min(t, 1.1)) / 1.1) ** 2,
      () => 150,
    )
    add(out, 0, 1.1, (t) => air(t) * Math.sin((Math.PI * t) / 1.1) ** 2, 1.1)
    return out
  },
  splash() {
    const out = silence(1.6)
    const spray = noise(
      21,
      (t) => 5200 - 2400 * t,
      () => 350,
    )
    add(out, 0.02, 1.5, (t) => spray(t) * Math.exp(-t * 4.5), 1)
    for (let i = 0; i < 9; i++)
      add(
        out,
        0.12 + i * 0.09,
        0.16,
        (t) => Math.sin(2 * Math.PI * (420 + 90 * i + 900 * t) * t) * Math.exp(-t * 30),
        0.12,
        (i % 3) * 0.4 - 0.4,
      )
    return out
  },
  bell() {
    const out = silence(3.5)
    // Partials of a small church bell: hum, prime, tierce, quint, nominal and two above.
    for (const [ratio, level, decay] of [
      [0.5, 0.3, 0.7],
      [1, 0.5, 1.1],
      [1.19, 0.35, 1.4],
      [1.5, 0.2, 1.8],
      [2, 0.4, 2],
      [2.52, 0.15, 3],
      [3.01, 0.1, 4],
    ] as const)
      add(
        out,
        0,
        3.4,
        (t) => Math.sin(2 * Math.PI * 392 * ratio * t) * Math.exp(-t * decay) * Math.min(1, t * 800),
        level * 0.5,
      )
    return out
  },
  'paper-rustle'() {
    const out = silence(1.5)
    for (let i = 0; i < 14; i++) {
      const crisp = noise(
        40 + i,
        () => 8500,
        () => 1800,
      )
      add(
        out,
        0.05 + i * 0.095 + 0.03 * Math.sin(i * 5),
        0.11,
        (t) => crisp(t) * Math.exp(-t * 40),
        0.4 + 0.3 * Math.sin(i * 2.2),
        Math.sin(i) * 0.5,
      )
    }
    return out
  },
  'steps-on-stone'() {
    const out = silence(3)
    for (let i = 0; i < 6; i++) {
      const grit = noise(
        60 + i,
        () => 3200,
        () => 300,
      )
      add(
        out,
        0.1 + i * 0.48,
        0.16,
        (t) => grit(t) * Math.exp(-t * 48) + 0.5 * Math.sin(2 * Math.PI * 95 * t) * Math.exp(-t * 60),
        0.75,
        i % 2 ? 0.2 : -0.2,
      )
    }
    return out
  },
  'far-gulls'() {
    const out = silence(3)
    for (const [at, pitch, pan] of [
      [0.2, 1250, -0.5],
      [0.75, 1180, -0.4],
      [1.6, 1420, 0.5],
      [2.1, 1360, 0.6],
    ] as const)
      add(
        out,
        at,
        0.45,
        (t) =>
          Math.sin(2 * Math.PI * (pitch * t - 420 * t * t) + 2 * Math.sin(2 * Math.PI * 28 * t)) *
          Math.sin((Math.PI * t) / 0.45) ** 2,
        0.16,
        pan,
      )
    return out
  },
}
