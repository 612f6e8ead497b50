import { readFileSync } from 'node:fs'
import { expect, test } from '@playwright/test'
import { apart, BenchPage } from './bench-page'
import { BASE, serveTests } from './server'

serveTests(test)

test(
  'from an empty project to a material elsewhere: three parts shaded, lit, tried in steps, compared, ' +
    'saved, taken along; the actions are counted',
  async ({ page }) => {
    const bench = new BenchPage(page)
    const counts: Record<string, number> = {}
    /** One thing a hand does: a click, a key, a drop, a drag, a value typed and entered. */
    const act = async (stage: string, does: () => Promise<unknown>) => {
      counts[stage] = (counts[stage] ?? 0) + 1
      await does()
    }
    const start = async (stage: string, part: string, starter: string) => {
      await act(stage, () => bench.pickPart(part))
      await act(stage, () => bench.choose(page.getByLabel(`Material of ${part}`), starter))
    }
    const enter = async (input: string, label: string, value: string) => {
      const f = bench.property(input).getByLabel(label, { exact: true })
      await f.fill(value)
      await f.press('Enter')
    }
    await page.goto(BASE)
    await act('import', () => bench.drop(page.locator('main'), 'beacon.glb'))
    await bench.view().waitFor()
    await bench.refined(1)

    // layered paint, its cut driven by a noise over the surface's own coordinates
    await start('paint', 'Base', 'Layered paint')
    await bench.settled(2)
    const worn = page.locator('button[data-layer]').filter({ hasText: /wear/i }).first()
    const cut = (await worn.getAttribute('data-layer'))!
    const whole = await bench.colourAt(0.5, 0.592, 6)
    await act('paint', () => bench.key('/'))
    await act('paint', async () => {
      await page.keyboard.type('noise2d')
      await page.keyboard.press('Enter')
    })
    const noise = (await page.locator('.vue-flow__node.selected').getAttribute('data-id'))!
    await act('paint', () => bench.key('Shift+N'))
    await act('paint', () => bench.networkLarge())
    await act('paint', async () => {
      await bench.card(noise).locator('.vue-flow__handle.source').hover()
      await page.mouse.down()
      await bench.card(cut).locator('.vue-flow__handle[data-handleid="mix"]').hover()
      await page.mouse.up()
    })
    await expect(page.locator(`.wire[data-id="${noise}>${cut}.mix"]`)).toHaveCount(1)
    await act('paint', () => bench.key('n'))
    await bench.settled(2)
    await expect.poll(async () => apart(await bench.colourAt(0.5, 0.592, 6), whole)).toBeGreaterThan(4)

    // glass with absorption
    await start('glass', 'Bulb', 'Glass')
    await act('glass', () => bench.layer('Glass, raw stock').click())
    await act('glass', () =>
      bench.property('transmission_color').getByLabel('Colour at depth', { exact: true }).fill('#80e0b0'),
    )
    await act('glass', () => enter('transmission_depth', 'Depth', '5 mm'))

    // metal with a mapped roughness
    await start('metal', 'Knob', 'Metal')
    await act('metal', () => bench.layer('Steel, raw stock').click())
    await act('metal', () => bench.drop(bench.property('roughness'), 'check.png'))
    await expect(bench.property('roughness')).toContainText('data')

    await act('light', () => bench.choose(page.getByLabel('Light rig'), 'Window'))
    await act('light', async () => {
      const t = (await page.getByTestId('turn').boundingBox())!
      await bench.drag({ x: t.x + 8, y: t.y + 20 }, { x: t.x + 68, y: t.y + 20 })
    })
    await expect(page.getByTestId('turn')).toContainText('30°')

    await act('strip', () => bench.pickPart('Base'))
    await act('strip', () => bench.layer('Clear coat').click())
    await act('strip', () => bench.property('coat_roughness').hover())
    await act('strip', () => bench.key('t'))
    await act('strip', () =>
      page.getByTestId('test-strip').getByRole('button').filter({ hasNotText: 'as it is' }).nth(2).click(),
    )
    await expect(page.getByTestId('test-strip')).toHaveCount(0)

    await bench.settled(4)
    await act('proofs', () => bench.key('k'))
    await expect(page.getByText('Kept as proof 1').first()).toBeVisible()
    await act('proofs', () => bench.layer('Paint').click())
    await act('proofs', () => bench.property('base_color').getByLabel('Colour', { exact: true }).fill('#b03018'))
    await bench.settled(4)
    await act('proofs', () => bench.key('k'))
    await expect(page.getByText('Kept as proof 2').first()).toBeVisible()
    // the newer proof is still A; the older one becomes B, and the map says how far they are apart
    await act('proofs', () => page.getByRole('button', { name: 'More of proof 1' }).click())
    await act('proofs', () => page.getByRole('button', { name: 'As B' }).click())
    await act('proofs', () => bench.key('x'))
    const says = page.getByTestId('difference-says')
    await expect(says).toContainText(/ΔE00 mean \d/)
    // only the base changed, and both pictures have the same noise: it is light in the map, the plate around it
    // nearly black
    expect((await bench.colourAt(0.5, 0.592, 6))[0]).toBeGreaterThan(50)
    expect((await bench.colourAt(0.12, 0.85, 6))[0]).toBeLessThan(40)
    await act('proofs', () => bench.key('x'))

    await act('save', () => bench.key('Control+s'))
    await expect(page.getByTestId('save-state')).toContainText('v2 saved')
    const zip = await (await bench.download(/Material/)).path()
    counts.export = 2
    const wanted = await bench.colourAt(0.5, 0.592, 6)

    // elsewhere: the same model under the same light, the exported material
    await page.goto(BASE)
    await act('elsewhere', () => bench.drop(page.locator('main'), 'beacon.glb'))
    await bench.view().waitFor()
    await bench.refined(1)
    await act('elsewhere', () => bench.choose(page.getByLabel('Light rig'), 'Window'))
    await act('elsewhere', async () => {
      const t = (await page.getByTestId('turn').boundingBox())!
      await bench.drag({ x: t.x + 8, y: t.y + 20 }, { x: t.x + 68, y: t.y + 20 })
    })
    await act('elsewhere', () => bench.pickPart('Base'))
    const name = 'Layered_paint.' + (readFileSync(zip).subarray(0, 2).toString() === 'PK' ? 'zip' : 'mtlx')
    await act('elsewhere', () =>
      page
        .getByTestId('import-material')
        .setInputFiles({ name, mimeType: 'application/octet-stream', buffer: readFileSync(zip) }),
    )
    await expect(page.getByText(/is now on Base/).first()).toBeVisible()
    await bench.settled(8)
    expect(apart(await bench.colourAt(0.5, 0.592, 6), wanted)).toBeLessThan(12)

    // these numbers are the product's: more of them is a step back
    expect(counts).toEqual({
      import: 1,
      paint: 8,
      glass: 5,
      metal: 4,
      light: 2,
      strip: 5,
      proofs: 8,
      save: 1,
      export: 2,
      elsewhere: 5,
    })
  },
)

test(
  'proofs are named, noted and starred; nodes are copied, put into a wire and tidied; a key is changed; ' +
    'exposure shows in zones',
  async ({ page, context }) => {
    await context.grantPermissions(['clipboard-read', 'clipboard-write'])
    const bench = new BenchPage(page)
    await bench.open('Skerry lantern')
    await bench.key('k')
    await expect(page.getByText(/Kept as proof/).first()).toBeVisible()
    const more = page.getByRole('button', { name: /More of proof/ }).first()
    const label = (await more.getAttribute('aria-label'))!.replace('More of ', '')
    await more.click()
    await page.getByLabel(`Name of ${label}`).fill('<i>Harbour</i> green')
    await page.getByLabel(`Note of ${label}`).fill('Primer a little lighter')
    await page.getByRole('button', { name: `Star ${label}` }).click()
    await expect(page.getByRole('button', { name: `Star ${label}` })).toHaveAttribute('aria-pressed', 'true')
    const [exr] = await Promise.all([
      page.waitForEvent('download'),
      page.getByTestId('proofs').getByRole('button', { name: 'EXR', exact: true }).click(),
    ])
    expect(readFileSync(await exr.path()).readUInt32LE(0)).toBe(20000630)
    await page.reload()
    await bench.refined(1)
    await page.getByRole('button', { name: `More of ${label}` }).click()
    await expect(page.getByLabel(`Name of ${label}`)).toHaveValue('<i>Harbour</i> green')
    await expect(page.getByLabel(`Note of ${label}`)).toHaveValue('Primer a little lighter')
    await expect(page.getByRole('button', { name: `Star ${label}` })).toHaveAttribute('aria-pressed', 'true')

    const cards = page.locator('.vue-flow__node')
    await expect(cards.first()).toBeVisible()
    const before = await cards.count()
    await bench.networkLarge()
    await bench.card('chips').click()
    await bench.key('Control+c')
    await bench.key('Control+v')
    await expect(cards).toHaveCount(before + 1)
    await expect(bench.card('chips2')).toBeVisible()
    await expect(page.locator('.wire[data-id$=">chips2.position"]')).toHaveCount(1)
    expect(await page.evaluate(() => navigator.clipboard.readText())).toContain('<fractal3d name="chips"')
    await bench.key('Control+z')
    await expect(cards).toHaveCount(before)

    // a wire is picked: what is added next stands in it
    const wire = page.locator('.wire[data-id^="chips>rough_edges."]')
    const input = (await wire.getAttribute('data-id'))!.split('.').at(-1)
    await wire.locator('.hit').click({ force: true })
    await bench.key('/')
    await page.keyboard.type('clamp')
    await page.keyboard.press('Enter')
    await expect(page.locator('.wire[data-id="chips>clamp.in"]')).toHaveCount(1)
    await expect(page.locator(`.wire[data-id="clamp>rough_edges.${input}"]`)).toHaveCount(1)
    await bench.key('Shift+N')
    await bench.networkStill()
    const boxes = await cards.evaluateAll(all =>
      all.map(c => {
        const r = c.getBoundingClientRect()
        return [r.left, r.top, r.right, r.bottom] as const
      }),
    )
    const overlaps = boxes.flatMap((a, i) =>
      boxes.slice(i + 1).filter(b => a[0] < b[2] && b[0] < a[2] && a[1] < b[3] && b[1] < a[3]),
    )
    expect(overlaps).toEqual([])
    await bench.key('n')

    await bench.key('?')
    await page.getByRole('button', { name: 'Change the key of: Exposure in zones' }).click()
    await page.keyboard.press('k')
    await expect(page.getByText('K is taken by “Keep a proof”').first()).toBeVisible()
    await page.getByRole('button', { name: 'Change the key of: Exposure in zones' }).click()
    await page.keyboard.press('j')
    await page.keyboard.press('Escape')
    await bench.key('j')
    await expect(page.getByTestId('shown')).toContainText('exposure in zones')
    // the backdrop is L* 50, half a stop or less from 18 %: the zone in the middle
    await expect.poll(async () => apart(await bench.colourAt(0.05, 0.06, 4), [142, 142, 142])).toBeLessThan(2)
  },
)
