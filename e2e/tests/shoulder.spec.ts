import { expect, type Page, test } from '@playwright/test'
import { accessible, add, button, click, commit, line, newWorkpiece, picks, stage } from './bench'

/** Picks things of one kind on the cage, by the mouse on what is seen. */
async function pick(page: Page, what: string, names: string[]): Promise<void> {
  await button(page, what).click()
  for (const name of names) {
    await click(page, new RegExp(`${name}(?!\\d)`))
  }
}

test('a kettle shoulder by hand: two lines, a triangle and a stray crease; what bends unevenly is named, tried and cured', async ({
  page,
}) => {
  test.slow()
  await newWorkpiece(page)
  await stage(page, 'Form')
  await add(page, 'g')
  await commit(page, 'Cage columns', '12')
  await commit(page, 'Cage bands', '5')
  await commit(page, 'Cage radius', '78')
  await commit(page, 'Cage height', '64')
  await page.getByLabel('Mirrored along x', { exact: true }).check()
  await expect(line(page, 'Cage 1')).toContainText('60 faces, 2 alike', { timeout: 300_000 })
  await button(page, 'Rows').click()
  for (const [row, size] of [
    ['2', '0.94'],
    ['3', '0.82'],
    ['4', '0.66'],
    ['5', '0.55'],
  ] as const)
    await commit(page, `Row ${row} size`, size)
  await pick(page, 'rows', ['row 1'])
  await button(page, 'Crease').click()
  await pick(page, 'rows', ['row 4'])
  await button(page, 'Crease').click()
  await expect(page.getByTestId('creases')).toHaveText('2 creases')

  // What is wrong: an edge drawn across a face, one turned, and a crease that ends in the open; each on both sides.
  await pick(page, 'faces', ['face f2\\.(?:0|1|5|6|7|11)'])
  const face = /f2\.(\d+)/.exec((await picks(page).textContent())!)!
  const column = Number(face[1])
  const of = (row: number, by: number) => `${row}.${(column + by + 12) % 12}`
  await button(page, 'none').click()
  await pick(page, 'points', [`point ${of(2, 0)}`, `point ${of(3, 1)}`])
  await expect(picks(page)).toHaveText(`${of(2, 0)}, ${of(3, 1)}`)
  await button(page, 'Draw edge').click()
  await page.getByLabel('Edit the form', { exact: true }).selectOption('changes')
  await expect(line(page, 'Cage 1')).toContainText('62 faces, 2 alike', { timeout: 300_000 })
  await pick(page, 'edges', [`edge ${of(3, 0)}~${of(3, -1)}|edge ${of(3, -1)}~${of(3, 0)}`])
  await button(page, 'Crease').click()
  await commit(page, 'Edit sharpness', '1.5')
  await expect(page.getByTestId('creases')).toHaveText('4 creases')

  // They are named, best cure first.
  await page.getByText('Even bending', { exact: true }).click()
  const cures = page.getByTestId('cage-cures')
  await expect(cures).toContainText('parts two triangles: rub it out', { timeout: 300_000 })
  await expect(cures).toContainText('ends in the open: drop it')
  await expect(cures.getByRole('listitem').first()).toContainText(/−\d+ % there/)
  await accessible(page)

  // One is put on trial, seen in stripes with and without it, and kept.
  await cures
    .getByRole('listitem')
    .filter({ hasText: 'rub it out' })
    .getByRole('button', { name: /^Try cure/ })
    .click()
  const trial = page.getByTestId('cage-trial')
  await expect(trial).toContainText('On trial: 1 edit')
  await expect(line(page, 'Cage 1')).toContainText('60 faces, 2 alike', { timeout: 300_000 })
  await trial.getByRole('button', { name: 'Stripes' }).click()
  await expect(page.getByTestId('look')).toContainText('Mirrored stripes')
  const before = (await trial.getByRole('button', { name: 'Hold to see it before' }).boundingBox())!
  await page.mouse.move(before.x + 8, before.y + 8)
  await page.mouse.down()
  await expect(page.getByRole('button', { name: /^Put edit \d back$/ })).toHaveCount(1)
  await page.mouse.up()
  await expect(page.getByRole('button', { name: /^Put edit/ })).toHaveCount(0)
  await expect(line(page, 'Cage 1')).toContainText('60 faces, 2 alike', { timeout: 300_000 })
  await trial.getByRole('button', { name: 'Keep' }).click()
  await expect(trial).toHaveCount(0)

  // The next is tried and dropped as a whole, then taken after all.
  await expect(cures).not.toContainText('rub it out', { timeout: 300_000 })
  const drop = cures
    .getByRole('listitem')
    .filter({ hasText: 'drop it' })
    .getByRole('button', { name: /^Try cure/ })
  await drop.click()
  await expect(page.getByTestId('creases')).toHaveText('2 creases')
  await trial.getByRole('button', { name: 'Drop' }).click()
  await expect(page.getByTestId('creases')).toHaveText('4 creases')
  await drop.click()
  await trial.getByRole('button', { name: 'Keep' }).click()
  await expect(page.getByTestId('creases')).toHaveText('2 creases')
  await expect(cures).not.toContainText('drop it', { timeout: 300_000 })
  await expect(line(page, 'Cage 1')).toContainText('60 faces, 2 alike', { timeout: 300_000 })
})
