/** What a decoder of H.264 is told before the first picture (ISO/IEC 14496-15 § 5.3.3.1). */
export interface AvcConfig {
  profile: number
  compatibility: number
  level: number
  /** Bytes of the number that stands before each unit: 1, 2 or 4. */
  lengthBytes: number
  /** Sequence and picture parameter sets, as units with their header. */
  sequences: Uint8Array[]
  pictures: Uint8Array[]
}

/** Profiles whose record says chroma format and depth besides; all that is read here is 8-bit 4:2:0. */
const HIGH_PROFILES: readonly number[] = [100, 110, 122, 144]
const CHROMA_420 = [0xfd, 0xf8, 0xf8, 0]
/** Identifiers that sequence parameter sets may have. */
const IDENTIFIERS = 32

/** Reads a configuration record. @returns `null` for what is none, or cut short */
export function readAvcConfig(record: Uint8Array): AvcConfig | null {
  if (record.length < 7 || record[0] !== 1) return null
  let at = 5
  const list = (count: number) =>
    Array.from({ length: count }, () => {
      const length = (record[at]! << 8) | record[at + 1]!
      const unit = record.slice(at + 2, at + 2 + length)
      at += 2 + length
      return unit
    })
  const sequences = list(record[at++]! & 31)
  if (at >= record.length) return null
  const pictures = list(record[at++]!)
  const [profile, compatibility, level] = [record[1]!, record[2]!, record[3]!]
  const whole = at <= record.length && [...sequences, ...pictures].every((unit) => unit.length > 1)
  return whole ? { profile, compatibility, level, lengthBytes: (record[4]! & 3) + 1, sequences, pictures } : null
}

/** Writes a configuration record. */
export function writeAvcConfig(config: AvcConfig): Uint8Array {
  const { profile, compatibility, level, lengthBytes, sequences, pictures } = config
  const units = (list: readonly Uint8Array[]) => list.flatMap((unit) => [unit.length >> 8, unit.length & 255, ...unit])
  return Uint8Array.from([
    ...[1, profile, compatibility, level, 0xfc | (lengthBytes - 1)],
    ...[0xe0 | sequences.length, ...units(sequences), pictures.length, ...units(pictures)],
    ...(HIGH_PROFILES.includes(profile) ? CHROMA_420 : []),
  ])
}

/** Identifiers of a configuration's parameter sets: sequences' first, then pictures'. */
export function identifiersOf({ sequences, pictures }: Pick<AvcConfig, 'sequences' | 'pictures'>) {
  return { sequences: sequences.map(sequenceId), pictures: pictures.map((unit) => readUnsigned(unit, 8)) }
}

/** After profile, constraints and level (ITU-T H.264 § 7.3.2.1.1). */
const sequenceId = (unit: Uint8Array) => readUnsigned(unit, 32)

/** Whether two configurations mean the same sets wherever they use the same identifiers. */
export function goTogether(a: AvcConfig, b: AvcConfig): boolean {
  const [idsA, idsB] = [identifiersOf(a), identifiersOf(b)]
  return (['sequences', 'pictures'] as const).every((kind) =>
    a[kind].every((unit, i) => {
      const at = idsB[kind].indexOf(idsA[kind][i]!)
      return at < 0 || Buffer.compare(unit, b[kind][at]!) === 0
    }),
  )
}

/** The lowest identifier that none of some configurations uses, or `null` when all are taken. */
export function freeIdentifier(configs: readonly AvcConfig[]): number | null {
  const used = new Set(configs.map(identifiersOf).flatMap(({ sequences, pictures }) => [...sequences, ...pictures]))
  for (let id = 0; id < IDENTIFIERS; id++) if (!used.has(id)) return id
  return null
}

/** One configuration that holds the sets of several that {@link goTogether}; units are told by four bytes. */
export function mergeAvcConfigs(configs: readonly AvcConfig[]): AvcConfig {
  const distinct = (units: Uint8Array[]) => {
    const known = new Map(units.map((unit) => [Buffer.from(unit).toString('latin1'), unit]))
    return [...known.values()]
  }
  const highest = configs.reduce((a, b) => (b.profile > a.profile ? b : a))
  return {
    profile: highest.profile,
    // Constraints that hold for all of them.
    compatibility: configs.reduce((bits, config) => bits & config.compatibility, 255),
    level: Math.max(...configs.map(({ level }) => level)),
    lengthBytes: 4,
    sequences: distinct(configs.flatMap(({ sequences }) => sequences)),
    pictures: distinct(configs.flatMap(({ pictures }) => pictures)),
  }
}

/**
 * An unsigned Exp-Golomb number (ITU-T H.264 § 9.1) in a unit.
 * @param from bit at which it begins; bytes against start codes within (§ 7.4.1) don't come as early as it is read
 */
function readUnsigned(unit: Uint8Array, from: number): number {
  const bit = (at: number) => ((unit[at >> 3] ?? 0) >> (7 - (at & 7))) & 1
  let zeros = 0
  while (zeros < 16 && bit(from + zeros) === 0) zeros++
  let value = 0
  for (let i = 0; i <= zeros; i++) value = value * 2 + bit(from + zeros + i)
  return value - 1
}
