const LOCAL = /^(127\.0\.0\.1|localhost|\[::1\])(:\d+)?$/

/**
 * Only this machine's own pages may speak to the studio: a foreign host name (DNS rebinding) and a foreign origin
 * (another site's page) are turned away.
 */
export default defineEventHandler((event) => {
  const host = getHeader(event, 'host') ?? ''
  if (!LOCAL.test(host)) {
    setResponseStatus(event, 421)
    return 'Dusk Reel answers on this machine only: open it as 127.0.0.1 or localhost.'
  }
  const origin = getHeader(event, 'origin')
  const site = getHeader(event, 'sec-fetch-site')
  if (origin && origin !== `http://${host}`) {
    setResponseStatus(event, 403)
    return 'Another site’s page asked for this; that is not allowed.'
  }
  if (
    !origin &&
    event.method !== 'GET' &&
    event.method !== 'HEAD' &&
    site &&
    site !== 'same-origin' &&
    site !== 'none'
  ) {
    setResponseStatus(event, 403)
    return 'Another site’s page asked for this; that is not allowed.'
  }
})
