// Makes the mask of ranks that spreads the error of few samples over neighbouring pixels, and writes
// core/render/mask.json.
//   node scripts/bundle.mjs scripts/make-mask.ts
import { writeFileSync } from 'node:fs'
import { voidAndCluster } from '../core/testing/void-and-cluster'

const SIDE = 64
writeFileSync(
  'core/render/mask.json',
  JSON.stringify({
    source: 'scripts/make-mask.ts: void-and-cluster (Ulichney 1993), 64 × 64',
    ranks: Array.from(voidAndCluster(SIDE)),
  }),
)
