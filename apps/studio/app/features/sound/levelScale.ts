/** Part of a clip's height that 0 dB lies below its top: what is above makes louder. */
const ZERO = 0.28
/** Decibels at the top, and at the foot. */
const TOP = 24
const FOOT = -60

/** Pixels from the top of a clip at which a level lies. */
export function yOf(db: number, height: number): number {
  const part = db >= 0 ? ZERO * (1 - Math.min(db, TOP) / TOP) : ZERO + (1 - ZERO) * Math.min(1, db / FOOT)
  return part * (height - 4) + 1
}

/** The level that lies so many pixels from the top; at the foot there is silence. */
export function dbAt(y: number, height: number): number {
  const part = Math.min(1, Math.max(0, (y - 1) / (height - 4)))
  if (part <= ZERO) return TOP * (1 - part / ZERO)
  const db = FOOT * ((part - ZERO) / (1 - ZERO))
  return db <= FOOT + 0.5 ? -96 : db
}

/** A level in words. */
export function dbWords(db: number): string {
  return db <= -96 ? 'silent' : `${db < 0 ? '−' : ''}${Math.abs(db).toFixed(1)} dB`
}
