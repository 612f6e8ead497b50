import { readHead } from '../../../database/projects'
import { openSaves } from '../../../saves'

/** Numbers of the versions of a project as they are saved, as server-sent events; the newest one first. */
export default defineEventHandler(async event => {
  const id = projectId(event)
  const db = await useDatabase()
  const stream = createEventStream(event)
  const saves = await openSaves(databaseUrl())
  const off = saves.on(id, number => void stream.push(String(number)))
  untilEnd.add(stream)
  stream.onClosed(() => {
    off()
    untilEnd.delete(stream)
  })
  const head = await readHead(db, id)
  if (head === undefined) {
    off()
    untilEnd.delete(stream)
    throw createError({ statusCode: 404, message: 'There is no such project.' })
  }
  void stream.push(String(head))
  return stream.send()
})
