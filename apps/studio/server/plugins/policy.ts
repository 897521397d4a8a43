import { randomBytes } from 'node:crypto'

/**
 * A strict Content-Security-Policy: only our own files, scripts by nonce, WebAssembly allowed, nothing from
 * elsewhere.
 */
export default defineNitroPlugin((nitro) => {
  nitro.hooks.hook('render:html', (html, { event }) => {
    const nonce = randomBytes(16).toString('base64')
    const mark = (part: string) => part.replaceAll(/<(script|style)(?=[\s>])/g, `<$1 nonce="${nonce}"`)
    html.head = html.head.map(mark)
    html.bodyPrepend = html.bodyPrepend.map(mark)
    html.body = html.body.map(mark)
    html.bodyAppend = html.bodyAppend.map(mark)
    if (import.meta.dev) return
    const policy = [
      "default-src 'none'",
      `script-src 'self' 'nonce-${nonce}' 'wasm-unsafe-eval'`,
      "style-src 'self' 'unsafe-inline'",
      "img-src 'self' data: blob:",
      "font-src 'self'",
      "media-src 'self'",
      "connect-src 'self'",
      "worker-src 'self'",
      "manifest-src 'self'",
      "base-uri 'none'",
      "form-action 'none'",
      "frame-ancestors 'none'",
    ]
    event.node.res.setHeader('Content-Security-Policy', policy.join('; '))
  })
})
