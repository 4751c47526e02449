import { SMALL_DOCUMENT } from '@tests/fixtures/small-document'
import { spawnSync } from 'node:child_process'
import { mkdtempSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'

const folder = mkdtempSync(join(tmpdir(), 'steppe-command-'))
const file = (name: string, value: unknown) => {
  writeFileSync(join(folder, name), JSON.stringify(value))
  return join(folder, name)
}
/** Runs `steppe`, without a server or a database. */
const steppe = (...words: readonly string[]) =>
  spawnSync(
    process.execPath,
    ['--conditions=react-server', '--import', 'tsx', 'scripts/steppe.ts', ...words],
    { encoding: 'utf8' },
  )

test('questions are answered, and what is wrong with a document is told', () => {
  const questions = file('questions.json', [
    { id: '1', as: { account: 'fennmoor' }, sku: 'fr-1', quantity: 10 },
  ])
  const right = steppe('ask', file('store.json', SMALL_DOCUMENT), questions)
  expect(JSON.parse(right.stdout)).toMatchObject([{ id: '1', unit: { net: '20.00' } }])
  const wrong = steppe('ask', file('wrong.json', { ...SMALL_DOCUMENT, prices: [] }), questions)
  expect(wrong.status).toBe(1)
  expect(wrong.stderr).toContain('prices: there is no field “prices” here')
  expect(steppe('ask', 'nowhere.json', questions).stderr).toBe('nowhere.json cannot be read.\n')
})

describe('prove', () => {
  const proof = (code: string, value: string, more: object = {}) => ({
    code,
    name: code,
    audience: { include: [{ kind: 'account', account: 'fennmoor' }] },
    scope: { include: [{ kind: 'variant', variant: 'FR-1' }] },
    claim: 'price-at-most',
    value,
    ...more,
  })
  const prove = (...proofs: readonly object[]) =>
    steppe('prove', file('proofs.json', { ...SMALL_DOCUMENT, proofs }))

  test('exits with 0 where every proof holds, and says so', () => {
    // 25.90 − 12 % = 22.792.
    const { status, stdout } = prove(proof('fair', '22.80'))
    expect([status, stdout.slice(0, 5)]).toEqual([0, 'holds'])
    expect(stdout).toContain('(1 of 1)')
  })

  test('exits with 1 where one that blocks is broken, and tells for whom, of what and what was found', () => {
    const { status, stdout } = prove(proof('fair', '22.80'), proof('cheap', '20'))
    expect(status).toBe(1)
    expect(stdout).toMatch(/^BROKEN .*\(0 of 1\)$/m)
    expect(stdout).toContain('Fennmoor · FR-1 · €22.79')
  })

  test('exits with 0 where one that only warns is broken, or one is switched off', () => {
    const { status, stdout } = prove(
      proof('cheap', '20', { isBlocking: false }),
      proof('old', '1', { state: 'off' }),
    )
    expect(status).toBe(0)
    expect(stdout).toContain('BROKEN')
    expect(stdout).toContain('idle')
  })

  test('exits with 1 where one that blocks is about nothing that is sold, so that it proves nothing', () => {
    const scope = { include: [{ kind: 'attribute', name: 'Wood', value: 'Larch' }] }
    const { status, stdout } = prove(proof('gone', '20', { scope }))
    expect(status).toBe(1)
    expect(stdout).toContain('(0 of 0)')
  })
})
