import { expect, test } from '@playwright/test'
import { BenchPage } from './bench-page'
import { BASE, FIXTURES, serveTests } from './server'

// no memory for maps: tiles come from a file
serveTests(test, { NUXT_PUBLIC_MAP_MEMORY: '0' })

test('a picture without room in memory shows its pixels; a displaced part is as large as its material says', async ({
  page,
}) => {
  const bench = new BenchPage(page)
  await page.goto(BASE)
  await page.getByTestId('new-project').setInputFiles(`${FIXTURES}/beacon.glb`)
  await bench.view().waitFor()
  await bench.settled(1)
  await bench.drop(bench.part('Bulb'), 'fine.mtlx', 'fine.png')
  await bench.settled(4)
  /** Whether some place of the part is clearly red, and some clearly green. */
  const shows = async () => {
    const found: number[][] = []
    for (let x = 0.48; x < 0.53; x += 0.01)
      for (let y = 0.42; y < 0.505; y += 0.01) found.push(await bench.colourAt(x, y, 1))
    return [found.some(([r, g]) => r! > g! + 60), found.some(([r, g]) => g! > r! + 60)]
  }
  await expect.poll(shows).toEqual([true, true])

  const box = (await bench.view().boundingBox())!
  const across = Array.from({ length: 25 }, (_, i) => ({
    x: box.x + box.width * (0.44 + i * 0.005),
    y: box.y + box.height * 0.461,
  }))
  const share = async () => (await bench.seenAt(across)).filter(part => part === 'Bulb').length
  const before = await share()
  await bench.drop(bench.part('Bulb'), 'swollen.mtlx')
  await bench.settled(1)
  await expect.poll(share).toBeGreaterThan(before * 1.3)
})
