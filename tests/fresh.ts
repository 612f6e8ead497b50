import { pg, prepare } from './server'

/** Before all tests: nothing of an earlier run is left in their database, and what they use is made. */
export default function fresh(): void {
  pg('start')
  pg('fresh')
  prepare()
}
