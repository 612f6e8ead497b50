import { createHash } from 'node:crypto'

/** Gives every page a content security policy: scripts of our own, and the inline ones of the page itself by their hashes. */
export default defineNitroPlugin((nitro) => {
  if (import.meta.dev) return
  nitro.hooks.hook('render:response', (response) => {
    if (typeof response.body !== 'string') return
    const hashes = [...response.body.matchAll(/<script(?![^>]*\ssrc=)[^>]*>([\s\S]*?)<\/script>/g)].map(m => `'sha256-${createHash('sha256').update(m[1]!).digest('base64')}'`)
    response.headers = {
      ...response.headers,
      'content-security-policy': ["default-src 'self'", `script-src 'self' ${hashes.join(' ')}`, "style-src 'self' 'unsafe-inline'", "img-src 'self' blob: data:", "worker-src 'self'", "connect-src 'self'", "object-src 'none'", "base-uri 'none'", "form-action 'self'", "frame-ancestors 'none'"].join('; '),
    }
  })
})
