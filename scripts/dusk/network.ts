import { chmodSync, existsSync, readFileSync, writeFileSync } from 'node:fs'
import { hostname, networkInterfaces } from 'node:os'
import { join } from 'node:path'
import { generate } from 'selfsigned'
import type { Options } from './options'
import { StepFailed } from './steps'

const LOOPBACK = ['127.0.0.1', 'localhost', '::1']
/** How long a certificate of our own holds, in days: what browsers take at most. */
const CERTIFICATE_DAYS = 397
const EVERYWHERE = ['0.0.0.0', '::']

export const passphraseFile = (data: string) => join(data, 'passphrase')

/** How the studio is reached. */
export interface Network {
  /** What programs of this machine call: `http://127.0.0.1:4870`. */
  origin: string
  /** Where people of the network find it; the same as `origin` without `--host`. */
  shown: string
  /** What it adds to the studio's environment. */
  env: Record<string, string>
  /** The certificate, where it speaks TLS. */
  certificate: string | null
}

/** Addresses of this machine, and its name. */
function ownNames(): string[] {
  const addresses = Object.values(networkInterfaces()).flatMap((list) => (list ?? []).map(({ address }) => address))
  return [...new Set([...LOOPBACK, ...addresses.map((address) => address.split('%')[0]!), hostname().toLowerCase()])]
}

/** A name as it stands in an address. */
const inAddress = (name: string) => (name.includes(':') ? `[${name}]` : name)

/** The certificate and its key: the person's own, else one of ours for this machine's names, made anew when it ends. */
async function certificateOf(options: Options, names: string[]): Promise<{ cert: string; key: string }> {
  if (options.cert || options.certkey) {
    if (!options.cert || !options.certkey)
      throw new StepFailed('A certificate of your own needs both files: --cert FILE and --certkey FILE.')
    for (const path of [options.cert, options.certkey])
      if (!existsSync(path)) throw new StepFailed(`There is no file ${path}.`)
    return { cert: readFileSync(options.cert, 'utf8'), key: readFileSync(options.certkey, 'utf8') }
  }
  const paths = { cert: join(options.data, 'certificate.pem'), key: join(options.data, 'certificate-key.pem') }
  const stamp = join(options.data, 'certificate.json')
  const kept = existsSync(stamp)
    ? (JSON.parse(readFileSync(stamp, 'utf8')) as { names: string[]; until: number })
    : null
  if (!kept || kept.until < Date.now() + 30 * 86_400_000 || names.some((name) => !kept.names.includes(name))) {
    const notAfterDate = new Date(Date.now() + CERTIFICATE_DAYS * 86_400_000)
    const made = await generate([{ name: 'commonName', value: names.at(-1)! }], {
      keyType: 'ec',
      notAfterDate,
      extensions: [
        {
          name: 'subjectAltName',
          altNames: names.map((name) =>
            /^[\d.]+$|:/.test(name) ? { type: 7 as const, ip: name } : { type: 2 as const, value: name },
          ),
        },
      ],
    })
    writeFileSync(paths.cert, made.cert)
    writeFileSync(paths.key, made.private, { mode: 0o600 })
    chmodSync(paths.key, 0o600)
    writeFileSync(stamp, JSON.stringify({ names, until: notAfterDate.getTime() }))
  }
  return { cert: readFileSync(paths.cert, 'utf8'), key: readFileSync(paths.key, 'utf8') }
}

/**
 * How the studio is reached: on this machine alone, or with `--host` on the network, then by TLS and with a passphrase.
 * @throws {StepFailed} in words when there is no passphrase, or a certificate can't be read
 */
export async function networkOf(options: Options): Promise<Network> {
  const { data, port, host } = options
  const passphrase = existsSync(passphraseFile(data)) ? readFileSync(passphraseFile(data), 'utf8').trim() : ''
  if (!host || LOOPBACK.includes(host)) {
    const origin = `http://127.0.0.1:${port}`
    return { origin, shown: origin, certificate: null, env: { HOST: '127.0.0.1', NITRO_HOST: '127.0.0.1' } }
  }
  if (!passphrase)
    throw new StepFailed(
      'On the network the studio needs a passphrase, or anybody could read your footage. Choose one with ' +
        './dusk passphrase, then start again.',
    )
  const names = [...new Set([...ownNames(), ...(EVERYWHERE.includes(host) ? [] : [host]), ...(options.name ?? [])])]
  const { cert, key } = await certificateOf(options, names)
  const reached = options.name?.[0] ?? (EVERYWHERE.includes(host) ? hostname() : host)
  const own = EVERYWHERE.includes(host) ? '127.0.0.1' : host
  return {
    origin: `https://${inAddress(own)}:${port}`,
    shown: `https://${inAddress(reached)}:${port}`,
    certificate: cert,
    env: {
      HOST: host,
      NITRO_HOST: host,
      NITRO_SSL_CERT: cert,
      NITRO_SSL_KEY: key,
      DUSK_HOSTS: names.map(inAddress).join(','),
      DUSK_PASSPHRASE: passphrase,
    },
  }
}
