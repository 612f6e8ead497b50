/**
 * Who may ask the server for anything: pages that it served itself, under a name that is known to be its own, and
 * programs that are no page. What a page of somebody else's can make a browser send is told by headers that no page
 * can change (WHATWG Fetch, "Forbidden request-header"; W3C Fetch Metadata).
 */

/** What of a request decides whether it is let in. */
export interface Asking {
  method: string
  path: string
  /** A header by its name in small letters. */
  header(name: string): string | undefined
}

/** Why a request is refused: a status and words for who asked. */
export interface Refusal {
  status: 403 | 415
  message: string
}

const LOOPBACK = /^(localhost|127(\.\d{1,3}){3}|\[::1\])$/
const READING = new Set(['GET', 'HEAD', 'OPTIONS'])
/** Types of bodies that a foreign page cannot send without asking first, by where they belong. */
const TYPES = {
  documents: /^application\/json$/,
  files: /^(application\/octet-stream|image\/[\w.+-]+|model\/[\w.+-]+)$/,
}

/** Names of hosts from a list parted by commas, as in `WAVELUME_HOSTS`. */
export const hostNames = (list: string | undefined): ReadonlySet<string> =>
  new Set(
    (list ?? '')
      .split(',')
      .map(n => n.trim().toLowerCase())
      .filter(Boolean),
  )

/** The name in a `Host` header without its port; undefined where it is none. */
function nameOf(host: string | undefined): string | undefined {
  const m = /^(\[[0-9a-f:.]+\]|[a-z0-9.-]+)(:\d{1,5})?$/i.exec(host ?? '')
  return m?.[1]?.toLowerCase().replace(/\.$/, '')
}

/** The host of an `Origin`; undefined for `null` and what is none. */
function hostOf(origin: string): string | undefined {
  try {
    return new URL(origin).host
  } catch {
    return undefined
  }
}

/**
 * Whether a request is let in.
 * @param known names of the server beside those of loopback, see {@link hostNames}
 * @returns why not, or undefined
 */
export function refusalOf(asking: Asking, known: ReadonlySet<string>): Refusal | undefined {
  const host = asking.header('host')
  const name = nameOf(host)
  if (name === undefined || !(LOOPBACK.test(name) || known.has(name)))
    return {
      status: 403,
      message: `This server is not known as ${name ?? 'that'}. Its names are listed in WAVELUME_HOSTS.`,
    }
  if (!asking.path.startsWith('/api/')) return undefined
  const origin = asking.header('origin')
  const site = asking.header('sec-fetch-site')
  const foreign =
    (site !== undefined && site !== 'same-origin' && site !== 'none') ||
    (origin !== undefined && hostOf(origin) !== host?.toLowerCase())
  if (foreign) return { status: 403, message: 'Only pages of this server may ask that of it.' }
  if (READING.has(asking.method)) return undefined
  const type = asking.header('content-type')
  const sends =
    Number(asking.header('content-length') ?? 0) > 0 || asking.header('transfer-encoding') !== undefined
  if (!sends && type === undefined) return undefined
  const wanted = /^\/api\/assets\b/.test(asking.path) ? TYPES.files : TYPES.documents
  return wanted.test((type ?? '').split(';')[0]!.trim().toLowerCase())
    ? undefined
    : { status: 415, message: `What is sent is ${type || 'of no type'}; it has to be JSON, or a file as bytes.` }
}
