import AxeBuilder from '@axe-core/playwright'
import type { Page } from 'playwright-core'

export function axe(page: Page): AxeBuilder {
  return new AxeBuilder({ page }).setLegacyMode()
}

/** What a page breaks of WCAG, one line a rule. */
export async function violations(page: Page, builder = axe(page)): Promise<readonly string[]> {
  // A colour half way to another is nobody's choice.
  await page.evaluate(() =>
    Promise.all(
      document
        .getAnimations()
        .filter((each) => Number.isFinite(each.effect?.getComputedTiming().endTime))
        .map((each) => each.finished.catch(() => null)),
    ),
  )
  const found = await builder.analyze()
  return found.violations.map(
    ({ id, nodes }) =>
      `${id}: ${nodes.map(({ target, html }) => `${String(target)} ${html.slice(0, 160)}`).join(' | ')}`,
  )
}
