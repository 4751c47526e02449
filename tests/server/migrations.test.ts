import { RECORD_KINDS } from '@/core/issue/issue'
import { preparedAsOf } from '@/server/changes/history'
import { liveView } from '@/server/views/view'
import { openSteppe } from '@/server/engine/steppe'
import { PGlite } from '@electric-sql/pglite'
import { readFileSync } from 'node:fs'
import { createHash } from 'node:crypto'
import { join } from 'node:path'
import { testInDirectory } from './in-directory'
import { temporaryDirectory } from './temporary-directory'

const directory = temporaryDirectory()
afterAll(() => directory.remove())

const MIGRATIONS = 'src/server/database/migrations'

/** A store as the first version wrote it: lines with one method, lists without place or time. */
const FIRST_VERSION = `
  insert into settings values ('settings', 'Old', 'EUR', 2, 'Europe/Dublin', 'IE', 1);
  insert into category values ('all', 'all', 'All', null, 0, 1);
  insert into product(id, code, name, description, picture, unit, status, attributes, axes, base_price, revision)
    values ('p', 'P', 'Frame', '', 'frame', 'each', 'active', '{}', '[]', 25.90, 2);
  insert into product_category values ('p', 'all', 0);
  insert into variant(id, sku, product, options, position, revision) values ('v', 'V', 'p', '{}', 0, 1);
  insert into customer_group values ('g', 'farms', 'Farms', true, 0, 1);
  insert into price_list values ('l', 'level', 'Level', 'level', 'on',
    '{"include":[{"kind":"everyone"}],"exclude":[]}', 1, '{"kind":"percent","percent":"-10","reference":"base"}', null, 1);
  insert into price_line values ('n', 'l', 0, '{"include":[{"kind":"variant","variant":"v"}],"exclude":[]}',
    '{"kind":"percent","percent":"-12","reference":"base"}', null, 1);
  insert into change_set values (1, '2026-01-01T00:00Z', 'A', 'Set up', null), (2, '2026-02-01T00:00Z', 'A', 'Dearer', null);
  insert into change values (2, 0, 'product', 'p',
    '{"id":"p","code":"P","name":"Frame","description":"","picture":"frame","unit":"each","status":"active","categories":["all"],"attributes":{},"axes":[],"basePrice":"20","cost":null,"recommendedPrice":null,"weight":null}',
    '{"id":"p","code":"P","name":"Frame","description":"","picture":"frame","unit":"each","status":"active","categories":["all"],"attributes":{},"axes":[],"basePrice":"25.9","cost":null,"recommendedPrice":null,"weight":null}'),
    (2, 1, 'price-line', 'n', null,
    '{"id":"n","list":"l","position":0,"scope":{"include":[{"kind":"variant","variant":"v"}],"exclude":[]},"method":{"kind":"percent","percent":"-12","reference":"base"},"rounding":null}');
`

testInDirectory(
  'a store of the first version opens in this one, its past too',
  async () => {
    const first = readFileSync(join(MIGRATIONS, '0000_first.sql'), 'utf8')
    const { entries } = JSON.parse(readFileSync(join(MIGRATIONS, 'meta/_journal.json'), 'utf8')) as {
      entries: readonly { when: number }[]
    }
    const old = await PGlite.create(join(directory.path, 'database'))
    await old.exec(first.replaceAll('--> statement-breakpoint', ''))
    await old.exec(`
    create schema drizzle;
    create table drizzle.__drizzle_migrations (id serial primary key, hash text not null, created_at bigint);
    insert into drizzle.__drizzle_migrations(hash, created_at)
      values ('${createHash('sha256').update(first).digest('hex')}', ${entries[0]?.when});
    ${FIRST_VERSION}`)
    await old.close()

    const steppe = await openSteppe(directory.path)
    const { store } = liveView(steppe).prepared
    const method = { kind: 'percent', percent: '-12', reference: { kind: 'base' } }
    expect(store['price-line'].get('n')).toMatchObject({
      breaks: [{ from: '0', method }],
      counting: 'variant',
      pricing: 'all-units',
      schedule: null,
    })
    expect(store['price-list'].get('l')).toMatchObject({
      currency: 'EUR',
      status: 'active',
      defaultLine: { breaks: [{ from: '0', method: { ...method, percent: '-10' } }] },
    })
    expect(store.product.get('p')).toMatchObject({ basePrice: '25.9', ownAmounts: {}, family: null })
    const past = await preparedAsOf(steppe, new Date('2026-01-15T00:00Z'))
    expect(past.store.product.get('p')).toMatchObject({ basePrice: '20', ownAmounts: {}, floor: null })
    expect(past.store['price-line'].size).toBe(0)
    for (const kind of RECORD_KINDS) expect(store[kind]).toBeDefined()
    await steppe.close()
  },
  60_000,
)
