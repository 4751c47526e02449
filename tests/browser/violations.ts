import AxeBuilder from '@axe-core/playwright'
import type { Page } from 'playwright-core'

export function axe(page: Page): AxeBuilder {
  return new AxeBuilder({ page }).setLegacyMode()
}

/** What a page breaks of WCAG, one line a rule. */
export async function violations(builder: AxeBuilder): Promise<readonly string[]> {
  const found = await builder.analyze()
  return found.violations.map(
    ({ id, nodes }) =>
      `${id}: ${nodes.map(({ target, html }) => `${String(target)} ${html.slice(0, 160)}`).join(' | ')}`,
  )
}
