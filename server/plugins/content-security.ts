import { createHash } from 'node:crypto'

/** The line by which Nuxt UI takes its first colours out again; it adds it to the page itself. */
const NUXT_UI = "document.head.removeChild(document.querySelector('[data-nuxt-ui-colors]'))"
const hash = (script: string) => `'sha256-${createHash('sha256').update(script).digest('base64')}'`

/**
 * Gives every page a content security policy: scripts of our own, and the inline ones of the page itself by their
 * hashes.
 */
export default defineNitroPlugin(nitro => {
  if (import.meta.dev) return
  nitro.hooks.hook('render:response', response => {
    if (typeof response.body !== 'string') return
    const hashes = [...response.body.matchAll(/<script(?![^>]*\ssrc=)[^>]*>([\s\S]*?)<\/script>/g)].map(m =>
      hash(m[1]!),
    )
    response.headers = {
      ...response.headers,
      'content-security-policy': [
        "default-src 'self'",
        `script-src 'self' ${[...hashes, hash(NUXT_UI)].join(' ')}`,
        "style-src 'self' 'unsafe-inline'",
        "img-src 'self' blob: data:",
        "worker-src 'self'",
        "connect-src 'self'",
        "object-src 'none'",
        "base-uri 'none'",
        "form-action 'self'",
        "frame-ancestors 'none'",
      ].join('; '),
    }
  })
})
