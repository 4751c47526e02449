import SwaggerParser from '@apidevtools/swagger-parser'
import { OPERATIONS } from '@/server/exchange/description/operations'
import { eachTestInItsOwnWindow, testUrl } from './browser'

const here = eachTestInItsOwnWindow()

test('the description is OpenAPI 3.1, by another’s reading of it', async () => {
  const description = (await (await fetch(testUrl('/api/openapi.json'))).json()) as { readonly paths: object }
  await SwaggerParser.validate(structuredClone(description) as never)
  expect(Object.keys(description.paths)).toEqual([...new Set(OPERATIONS.map(({ path }) => path))])
})

test.each(OPERATIONS.flatMap((operation) => operation.examples.map((example) => ({ operation, example }))))(
  '$operation.path: $example.name',
  async ({ operation: { method, path }, example: { query = '', body, answer } }) => {
    const asked = await fetch(testUrl(`${path}${query}`), {
      method: method.toUpperCase(),
      ...(body !== undefined && {
        body: JSON.stringify(body),
        headers: { 'content-type': 'application/json' },
      }),
    })
    expect(asked.status).toBe(200)
    expect(await asked.json()).toMatchObject(answer as object)
  },
)

test('what is refused is a problem as the standard has it', async () => {
  const asked = await fetch(testUrl('/api/changes?since=x'))
  expect(asked.headers.get('content-type')).toMatch(/^application\/problem\+json/)
  expect(await asked.json()).toMatchObject({
    ...{ type: 'about:blank', title: 'Bad Request', status: 400, code: 'bad-position' },
    detail: 'since “x” is no position, such as 12 or 12.3.',
  })
})

test('the page tells of every address, and an example is tried with a key that may, and one that may not', async () => {
  const { page } = here
  await page.goto(testUrl('/programs'))
  await page.getByLabel('Which program').fill('Price checker')
  await page.getByRole('button', { name: 'Make a key' }).click()
  const key = (
    await page
      .locator('code', { hasText: /^[\w-]{20,}$/ })
      .first()
      .innerText()
  ).trim()
  await page.getByRole('link', { name: 'What programs can ask' }).click()
  await page.getByRole('heading', { name: 'Ask prices of items and carts' }).waitFor()
  await page.getByLabel('Try the examples with a key').fill(key)
  await page.getByRole('button', { name: 'Ask: One item, for a bee farm that takes three' }).click()
  const prices = page.getByRole('region', { name: 'Ask prices of items and carts' })
  await prices.getByText('200 OK').waitFor()
  expect(await prices.getByRole('status').innerText()).toContain('"net": "22.80"')
  await page.getByRole('button', { name: 'Ask: The first of all' }).click()
  const changes = page.getByRole('region', { name: 'Read what was changed since a position' })
  await changes.getByRole('status').getByText(/^403 /).waitFor()
  expect(await changes.getByRole('status').innerText()).toContain('lacks the scope store:read')
})
