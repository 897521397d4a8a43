import { ref } from 'vue'

/** What the server refused, in its own words. */
export class ApiError extends Error {
  constructor(
    readonly status: number,
    message: string,
  ) {
    super(message)
  }
}

/** Answer of a server whose disk is full (RFC 4918). */
export const DISK_FULL = 507
/** Answers of what stands between the page and a server that is not there: bad gateway, unavailable, time-out. */
const NOBODY = [502, 503, 504]

/** The server can't be reached; what was to be sent is kept and sent later. */
export class Offline extends Error {
  constructor() {
    super('The studio’s server does not answer. It is asked again.')
  }
}

/** Whether this browser has to be let in again. */
export const lockedOut = ref(false)

/** The page that lets a browser in, and leads back to this one. */
export const wayIn = () => `/enter?to=${encodeURIComponent(location.pathname + location.search)}`

/** Asks the server. @throws {ApiError} with the server's words, {Offline} when it does not answer */
export async function api<T>(path: string, method = 'GET', body?: unknown): Promise<T> {
  let response: Response
  try {
    response = await fetch(`/api${path}`, {
      method,
      headers: body === undefined ? {} : { 'content-type': 'application/json' },
      body: body === undefined ? undefined : JSON.stringify(body),
    })
  } catch {
    throw new Offline()
  }
  if (response.status !== 401) lockedOut.value = false
  if (response.ok) return (await response.json()) as T
  if (NOBODY.includes(response.status)) throw new Offline()
  // The key of the data folder is another one, or the passphrase. A project stays where it is: what was not sent waits.
  if (response.status === 401 && !path.startsWith('/access')) {
    lockedOut.value = true
    if (!location.pathname.startsWith('/projects/')) location.assign(wayIn())
  }
  const problem = (await response.json().catch(() => ({}))) as { detail?: string }
  throw new ApiError(response.status, problem.detail ?? `The server answered ${response.status}.`)
}
