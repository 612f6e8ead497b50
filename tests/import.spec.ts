import { expect, test } from '@playwright/test'
import { apart, BenchPage } from './bench-page'
import { BASE, FIXTURES, serveTests } from './server'

serveTests(test)
const at = (...names: string[]) => names.map(n => `${FIXTURES}/${n}`)

test('an OBJ comes with its materials once its unit is known; an import can be stopped, and leaves nothing', async ({
  page,
}) => {
  const bench = new BenchPage(page)
  await page.goto(BASE)
  await page.getByTestId('new-project').setInputFiles(at('buoy.obj', 'buoy.mtl', 'check.png'))
  const question = page.getByTestId('unit-question')
  await expect(question).toBeVisible({ timeout: 60_000 })
  // in millimetres: 100 across, from 40 − 50 up to 90 + 30
  await expect(question).toContainText('10 cm × 13 cm × 10 cm')
  await question.getByRole('button', { name: 'A millimetre' }).click()
  await expect(page).toHaveURL(/\/bench\//, { timeout: 60_000 })
  await bench.refined(1)
  await expect(bench.part('Tub')).toBeVisible()
  await bench.pickPart('Tub')
  await expect(page.getByLabel('Material of Tub')).toHaveText('Red lacquer')
  await expect(bench.property('specular_roughness').getByLabel('Roughness', { exact: true })).toHaveValue('0.2656')
  await bench.pickPart('Lid')
  await expect(bench.property('base_color')).toContainText('colour_map')
  await expect(page.getByText(/dissolve is taken as clear transmission/).first()).toBeVisible()

  // given up at the question, and while it is read
  await page.goto(BASE)
  const projects = page.getByRole('listitem')
  await expect(page.getByRole('link', { name: /Skerry lantern/ }).first()).toBeVisible()
  const before = await projects.count()
  await page.getByTestId('new-project').setInputFiles(at('buoy.obj'))
  await question.getByRole('button', { name: 'Stop' }).click({ timeout: 60_000 })
  await expect(page.getByText('buoy.obj was left as it is').first()).toBeVisible()
  await page.getByTestId('new-project').setInputFiles(at('large.glb'))
  await expect(page.getByRole('progressbar', { name: 'Import' })).toBeVisible()
  await expect(page.getByText(/step \d of 4/).first()).toBeVisible()
  await page.getByRole('button', { name: 'Stop' }).click()
  await expect(page.getByText('large.glb was left as it is').first()).toBeVisible()
  await page.reload()
  await expect(projects).toHaveCount(before)

  // what is missing is said, and the model is there all the same
  await page.getByTestId('new-project').setInputFiles(at('buoy.obj'))
  await question.getByRole('button', { name: 'A centimetre' }).click({ timeout: 60_000 })
  await expect(page).toHaveURL(/\/bench\//, { timeout: 60_000 })
  await expect(page.getByText(/material library buoy.mtl did not come with it/).first()).toBeVisible()
  await bench.refined(1)
  await page.goto(BASE)
  await page.getByTestId('new-project').setInputFiles(at('check.png'))
  await expect(page.getByText('none of the files is a model').first()).toBeVisible()
})

test(
  'a mesh that several nodes carry comes as a part for each: picked, hidden and shown by themselves, also ' +
    'when the project is opened anew',
  async ({ page }) => {
    const bench = new BenchPage(page)
    const middle = { Left: [0.36, 0.45], Middle: [0.5, 0.5], Right: [0.67, 0.555] } as const
    const pick = async ([x, y]: readonly [number, number]) => {
      const box = (await bench.view().boundingBox())!
      await page.mouse.click(box.x + box.width * x, box.y + box.height * y)
    }
    const seen = (name: keyof typeof middle) => bench.colourAt(...middle[name])
    await page.goto(BASE)
    await page.getByTestId('new-project').setInputFiles(at('bollards.glb'))
    await expect(page).toHaveURL(/\/bench\//, { timeout: 60_000 })
    await bench.refined(2)
    for (const name of ['Middle', 'Right', 'Left'] as const) {
      await pick(middle[name])
      await expect(bench.part(name)).toHaveAttribute('aria-pressed', 'true')
    }
    const left = await seen('Left')
    const right = await seen('Right')
    await page.getByRole('button', { name: 'Hide Right' }).click()
    await expect(async () => {
      await bench.settled(2)
      expect(apart(await seen('Right'), right)).toBeGreaterThan(20)
      expect(apart(await seen('Left'), left)).toBeLessThan(12)
    }).toPass({ timeout: 60_000 })
    await page.getByRole('button', { name: 'Show Right', exact: true }).click()
    await page.reload()
    await bench.refined(2)
    await expect(async () => expect(apart(await seen('Right'), right)).toBeLessThan(12)).toPass({
      timeout: 60_000,
    })
  },
)
