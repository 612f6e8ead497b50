import { pg } from './server'

/** Before all tests: nothing of an earlier run is left in their database. */
export default function fresh(): void {
  pg('start')
  pg('fresh')
}
