import { randomBytes, scrypt, timingSafeEqual } from 'node:crypto'

/** Fewest characters of a passphrase. */
export const SHORTEST_PASSPHRASE = 12
/** Costs of scrypt as OWASP's Password Storage Cheat Sheet asks for: 128 MiB and about 0.4 s a try. */
const COST = { N: 2 ** 17, r: 8, p: 1, maxmem: 256 * 1024 ** 2 }
const BYTES = 32

function derive(words: string, salt: Buffer): Promise<Buffer> {
  // The same letters may be typed as one code or as several.
  return new Promise((resolve, reject) =>
    scrypt(words.normalize('NFKC'), salt, BYTES, COST, (error, key) => (error ? reject(error) : resolve(key))),
  )
}

/** A passphrase as it is kept: salt and scrypt's result (RFC 7914), both in base64url. */
export async function sealPassphrase(words: string): Promise<string> {
  const salt = randomBytes(16)
  return `${salt.toString('base64url')}.${(await derive(words, salt)).toString('base64url')}`
}

/** Whether a passphrase is the one that is kept. @param kept what `sealPassphrase` made of it */
export async function passphraseFits(words: string, kept: string): Promise<boolean> {
  const [salt = '', wanted = ''] = kept.split('.').map((part) => Buffer.from(part, 'base64url'))
  if (!(salt instanceof Buffer) || !(wanted instanceof Buffer) || wanted.length !== BYTES) return false
  return timingSafeEqual(await derive(words, salt), wanted)
}
