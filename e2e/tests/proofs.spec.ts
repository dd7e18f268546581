import { expect, test } from '@playwright/test'
import { accessible, button, commit, openDemo, rebuilt, saved, stage } from './bench'

test('a proof is kept, compared with what became of it on Stage and Table, and gone back to', async ({
  page,
}) => {
  await openDemo(page)
  await page.getByRole('button', { name: /^Proofs/ }).click()
  const drawer = page.getByRole('region', { name: 'Proofs' })
  await drawer.getByLabel('Name of the proof').fill('Wall as first meant')
  await button(page, 'Keep as it is').click()
  await expect(drawer.getByTestId('proof')).toHaveCount(1)
  await page.keyboard.press('9')

  await stage(page, 'Draw')
  await commit(page, 'Value of wall', '2.4 mm')
  await expect(page.getByRole('navigation', { name: 'Route' })).toContainText('wall 2.40 mm')
  await page.getByRole('button', { name: /^Proofs/ }).click()
  await button(page, 'Compare').click()
  const beside = page.getByRole('region', { name: 'Comparison' })
  await expect(beside).toContainText('wall3 mm → 2.4 mm')
  // A thinner wall weighs less and holds as much or more: readings side by side.
  await expect(beside.getByRole('row', { name: /^Mass/ })).toContainText('−')
  await expect(beside).toContainText('The route is the same.')
  await button(page, 'seen through').click()
  await expect(page.getByTestId('proof-section').first()).toBeVisible()
  await button(page, 'half and half').click()
  await expect(page.getByTestId('proof-section').first()).toBeVisible()
  await accessible(page)

  await button(page, 'Go back to it').click()
  await expect(page.getByRole('navigation', { name: 'Route' })).toContainText('wall 3.00 mm')
  await expect(beside).toContainText('All figures are the same.')
  await button(page, 'Undo').first().click()
  await expect(page.getByRole('navigation', { name: 'Route' })).toContainText('wall 2.40 mm')

  // What leaves the shop is kept by itself; all are there after a reload.
  await page.keyboard.press('9')
  await stage(page, 'Release')
  await button(page, 'Drawing').click()
  await expect(page.getByTestId('released')).toContainText('kB')
  await page.keyboard.press('9')
  await expect(drawer.getByTestId('proof')).toHaveCount(2)
  await saved(page)
  await page.reload()
  await rebuilt(page)
  await page.keyboard.press('9')
  await expect(drawer.getByTestId('proof')).toHaveCount(2)
  await drawer.getByRole('button', { name: 'Drop the proof Wall as first meant' }).click()
  await expect(drawer.getByTestId('proof')).toHaveCount(1)
  await button(page, 'Keep it').click()
  await expect(drawer.getByTestId('proof')).toHaveCount(2)
})
