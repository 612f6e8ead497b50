// Prints the first port from one on that nothing listens on, and says on the error stream when that is another:
//   node scripts/free-port.mjs 3000
import { createServer } from 'node:net'

const wanted = Number(process.argv[2])
/** How many ports after the one that is wanted are tried. */
const MOST = 50

const isFree = port =>
  new Promise(done => {
    const server = createServer()
    server.once('error', () => done(false))
    server.listen(port, '127.0.0.1', () => server.close(() => done(true)))
  })

let port = wanted
while (port < wanted + MOST && !(await isFree(port))) port++
if (port === wanted + MOST) {
  console.error(`Ports ${wanted} to ${port - 1} are taken.`)
  process.exit(1)
}
if (port !== wanted) console.error(`Port ${wanted} is taken: ${port} is used.`)
console.log(port)
