import SwaggerParser from '@apidevtools/swagger-parser'
import { OPERATIONS } from '@/server/exchange/description/operations'
import Ajv2020 from 'ajv/dist/2020'
import { eachTestInItsOwnWindow, testUrl } from './browser'

const here = eachTestInItsOwnWindow()

interface OperationSchemas {
  readonly requestBody?: { readonly content: Readonly<Record<string, { readonly schema: object }>> }
  readonly responses: Readonly<
    Record<string, { readonly content: Readonly<Record<string, { readonly schema: object }>> }>
  >
}

function faults(schema: object, value: unknown): readonly unknown[] {
  const validate = new Ajv2020({ strict: false, validateFormats: false }).compile(schema)
  return validate(value) ? [] : (validate.errors ?? [])
}

interface Described {
  readonly paths: Readonly<Record<string, object>>
}

async function described(): Promise<Described> {
  return (await (await fetch(testUrl('/api/openapi.json'))).json()) as Described
}

test('the description is OpenAPI 3.1, by another’s reading of it', async () => {
  const description = await described()
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
    const told: unknown = await asked.json()
    expect(told).toMatchObject(answer as object)
    // What is sent and what comes is as described, by another's reading of the schemas.
    const whole = (await SwaggerParser.dereference((await described()) as never)) as unknown as Described
    const operation = (whole.paths[path] as Record<string, OperationSchemas>)[method]!
    const taken = operation.requestBody?.content['application/json']
    if (taken) expect(faults(taken.schema, body)).toEqual([])
    expect(faults(Object.values(operation.responses['200']!.content)[0]!.schema, told)).toEqual([])
  },
)

test('the schemas refuse what the server refuses', async () => {
  const whole = (await SwaggerParser.dereference((await described()) as never)) as unknown as Described
  const { post } = whole.paths['/api/prices'] as unknown as Record<'post', OperationSchemas>
  const { schema } = post.requestBody!.content['application/json']!
  for (const wrong of [
    {},
    [{ id: 'a', sku: 'X' }],
    [{ id: 'a', as: { guest: true, group: 'x' }, sku: 'X' }],
    [{ as: { guest: true } }],
  ])
    expect(faults(schema, wrong)).not.toEqual([])
})

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
