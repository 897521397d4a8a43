/** Kinds of units in a stream of H.264 (ITU-T H.264 table 7-1). */
export const UNIT = { slice: 1, refresh: 5, sequence: 7, picture: 8 } as const

/** What a unit is, by its first byte. */
export const unitKind = (unit: Uint8Array) => unit[0]! & 31

/** The units of a picture as MP4 keeps them: each after its length. @throws when the lengths don't fit */
export function* unitsOf(packet: Uint8Array, lengthBytes: number): Generator<Uint8Array> {
  let at = 0
  while (at < packet.length) {
    let length = 0
    for (let i = 0; i < lengthBytes; i++) length = length * 256 + (packet[at + i] ?? 0)
    at += lengthBytes
    if (length === 0 || at + length > packet.length) throw new Error('The units of a picture do not fit into it.')
    yield packet.subarray(at, at + length)
    at += length
  }
}

/** The units of a picture that hold what is seen: its slices. */
export function slicesOf(packet: Uint8Array, lengthBytes: number): Uint8Array[] {
  return [...unitsOf(packet, lengthBytes)].filter(
    (unit) => unitKind(unit) >= UNIT.slice && unitKind(unit) <= UNIT.refresh,
  )
}
