import { describe, expect, it } from 'vitest'
import { hostNames, refusalOf } from './doors'

const asks = (method: string, path: string, headers: Record<string, string>, known = '') =>
  refusalOf({ method, path, header: name => headers[name] }, hostNames(known))?.status
const host = '127.0.0.1:3000'
const json = { host, 'content-type': 'application/json', 'content-length': '2' }

describe('doors of the server', () => {
  it.each(['localhost', 'localhost:3000', '127.0.0.1:3000', '127.3.2.1', '[::1]:3000', 'LOCALHOST:80'])(
    'opens under the name %s of loopback',
    name => expect(asks('GET', '/api/projects', { host: name })).toBeUndefined(),
  )
  it.each([
    'rebound.test',
    'localhost.rebound.test',
    '127.0.0.1.rebound.test',
    '10.0.0.2',
    '',
    'a b',
    '[::1].x',
    '1270.0.1',
  ])('is shut under the name “%s”, for pages too', name => {
    expect(asks('GET', '/api/projects', { host: name })).toBe(403)
    expect(asks('GET', '/', { host: name })).toBe(403)
    expect(asks('DELETE', '/api/projects/1', { host: name })).toBe(403)
  })
  it('knows the names that it is told, and no name that only begins like one', () => {
    expect(asks('GET', '/', { host: 'bench.studio.test:8080' }, 'other, Bench.Studio.test')).toBeUndefined()
    expect(asks('GET', '/', { host: 'bench.studio.test.evil' }, 'bench.studio.test')).toBe(403)
  })
  it.each<Record<string, string>>([
    { origin: 'http://evil.test' },
    { origin: 'null' },
    // another port of the same machine is another site's page as much
    { origin: 'http://127.0.0.1:8080' },
    { 'sec-fetch-site': 'cross-site' },
    { 'sec-fetch-site': 'same-site' },
  ])('lets no foreign page change anything, nor read: %j', headers => {
    expect(asks('POST', '/api/projects', { ...json, ...headers })).toBe(403)
    expect(asks('DELETE', '/api/projects/1', { host, ...headers })).toBe(403)
    expect(asks('GET', '/api/projects', { host, ...headers })).toBe(403)
  })
  it('lets its own pages and programs do so', () => {
    const own = { 'origin': `http://${host}`, 'sec-fetch-site': 'same-origin' }
    expect(asks('POST', '/api/projects', { ...json, ...own })).toBeUndefined()
    expect(asks('DELETE', '/api/projects/1', { host, ...own })).toBeUndefined()
    expect(asks('POST', '/api/projects', json)).toBeUndefined()
    // a link from elsewhere opens a page
    expect(asks('GET', '/bench/1', { host, 'sec-fetch-site': 'cross-site' })).toBeUndefined()
  })
  it.each([
    'text/plain',
    'application/x-www-form-urlencoded',
    'multipart/form-data; boundary=x',
    'text/plain; a=application/json',
    '',
  ])('takes no body of the type “%s”', type => {
    expect(asks('POST', '/api/projects', { ...json, 'content-type': type })).toBe(415)
    expect(asks('POST', '/api/assets?name=a', { ...json, 'content-type': type })).toBe(415)
    // a form without fields
    expect(asks('POST', '/api/frames/1/stop', { host, 'content-type': type })).toBe(415)
  })
  it('takes files as bytes and documents as JSON, each where it belongs', () => {
    const bytes = { ...json, 'content-type': 'application/octet-stream' }
    expect(asks('POST', '/api/assets?name=a', bytes)).toBeUndefined()
    expect(asks('POST', '/api/assets', { ...json, 'content-type': 'image/png' })).toBeUndefined()
    expect(asks('POST', '/api/projects', bytes)).toBe(415)
    expect(asks('POST', '/api/assets', json)).toBe(415)
    expect(
      asks('POST', '/api/projects', { ...json, 'content-type': 'application/json; charset=utf-8' }),
    ).toBeUndefined()
    // a body that does not say how long it is is one
    expect(asks('POST', '/api/projects', { host, 'transfer-encoding': 'chunked' })).toBe(415)
    expect(asks('POST', '/api/projects/1/copy', { host })).toBeUndefined()
  })
})
