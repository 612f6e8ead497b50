import type { H3Event } from 'h3'

/**
 * Reads a request's body, counting as it comes: a body without an announced length is bounded too.
 * @throws 413 in words once there is more than `most`
 */
export function bytesOf(event: H3Event, most: number, says: string): Promise<Buffer> {
  const tooLarge = () => createError({ statusCode: 413, message: says })
  if (Number(getRequestHeader(event, 'content-length') ?? 0) > most) return Promise.reject(tooLarge())
  const request = event.node.req
  const pieces: Buffer[] = []
  return new Promise((resolve, reject) => {
    let size = 0
    request.on('data', (piece: Buffer) => {
      size += piece.length
      if (size <= most) {
        pieces.push(piece)
        return
      }
      // the answer still reaches the sender; the connection ends with it
      request.pause()
      request.removeAllListeners('data')
      setResponseHeader(event, 'Connection', 'close')
      reject(tooLarge())
    })
    request.on('end', () => resolve(Buffer.concat(pieces)))
    request.on('error', reject)
    request.on('aborted', () =>
      reject(createError({ statusCode: 400, message: 'The connection ended before all had arrived.' })),
    )
  })
}
