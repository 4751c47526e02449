import type { Page } from 'playwright-core'

/** Pastes a list of SKUs and quantities, as out of a spreadsheet, and waits until each row is looked up. */
export async function pasteQuickOrder(page: Page, url: string, list: string): Promise<void> {
  await page.goto(`${url}/shop/quick`)
  const first = page.getByRole('textbox', { name: 'SKU of line 1', exact: true })
  await first.focus()
  await first.evaluate((input, text) => {
    const clipboardData = new DataTransfer()
    clipboardData.setData('text/plain', text)
    input.dispatchEvent(new ClipboardEvent('paste', { clipboardData, bubbles: true, cancelable: true }))
  }, `${list}\n`)
  const lines = list.trim().split('\n').length
  await page.getByRole('textbox', { name: `SKU of line ${lines + 1}`, exact: true }).waitFor()
  await page.locator('table[data-ready=true]').waitFor()
}

/** The same, and puts all of it into the cart. */
export async function orderQuickly(page: Page, url: string, list: string): Promise<void> {
  await pasteQuickOrder(page, url, list)
  await page.getByRole('button', { name: /^Add \d+ lines? to cart$/ }).click()
  await page.waitForURL(/\/shop\/cart/)
}
