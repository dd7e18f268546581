import { readFileSync } from 'node:fs'
import { expect, test } from '@playwright/test'
import { routeRow, stage, welcomed } from './bench'

/** The numbers and names of a STEP file, without the moment it was written at. */
const written = (bytes: Uint8Array) =>
  new TextDecoder().decode(bytes).replace(/FILE_NAME\([^;]*;/, '')

// What the page makes is what the terminal makes, to the last digit; it is asked for before its bodies are there.
for (const name of ['napkin-coil', 'counter-clip', 'batter-scoop'])
  test(`${name}: the STEP file of the page is that of the terminal, digit by digit`, async ({
    page,
  }) => {
    test.setTimeout(1_800_000)
    const file = `demo/set/${name}.lathe.json`
    const { loadShapes } = await import('@ivory/core/exact')
    const { inPlace, rebuildWith } = await import('@ivory/core/rebuild')
    const { releaseFile } = await import('@ivory/core/release')
    const { readWorkpiece } = await import('@ivory/core/workpiece')
    const read = readWorkpiece(readFileSync(file, 'utf8'))
    if (!read.ok) throw new Error(read.diagnosis.message)
    const shapes = loadShapes()
    const built = await rebuildWith(
      read.value,
      inPlace(read.value, () => shapes),
    )
    const own = await releaseFile(read.value, built, 'step', { shapes: await shapes })
    if (!own.ok) throw new Error(own.diagnosis.message)

    await welcomed(page)
    await page.goto('/')
    await page.getByLabel('File to import').setInputFiles(file)
    await page.waitForURL(/\/w\//)
    await expect(routeRow(page, read.value.route.at(-1)!.name)).toBeVisible()
    await stage(page, 'Release')
    const [download] = await Promise.all([
      page.waitForEvent('download', { timeout: 600_000 }),
      page.getByRole('button', { name: 'STEP' }).click(),
    ])
    const [seen, node] = [written(readFileSync(await download.path())), written(own.value.bytes)]
    // Told by the first line that differs: the whole of both is too much to be shown.
    const lines = node.split('\n')
    const other = seen.split('\n').findIndex((l, i) => l !== lines[i])
    expect([other, seen.length]).toEqual([-1, node.length])
  })
