import { distancesUp } from '@/core/catalogue/category'
import type { Breaks } from '@/core/price/lines/price-method'
import { type Store } from '@/core/store/store'
import { PGlite } from '@electric-sql/pglite'

/**
 * The same column as one set-based SQL query, on the database the product uses. Categories are spread out
 * beforehand and everything is indexed, so the query is given every advantage; it knows the methods and
 * roundings of the generated store and nothing else.
 */
export interface SqlColumn {
  /** Cents by variant id for one account and quantity. */
  column(buyer: { account: string; group: string; quantity: number }): Promise<ReadonlyMap<string, number>>
  close(): Promise<void>
}

const BATCH = 20_000

export async function openSqlColumn(store: Store, at: number): Promise<SqlColumn> {
  const database = await PGlite.create()
  await database.exec(`
    create table variant(id text primary key, product text not null, base numeric not null);
    create table filed(product text not null, category text not null, distance int not null);
    create table list(id text primary key, code text, who text, rank int, rule text, starts bigint);
    create table line(list text, position int, level int, target text, least int, below int, kind text, amount numeric);
  `)
  await load(database, store, at)
  await database.exec(`
    create index on filed(category); create index on line(list); create index on line(target); create index on variant(product);
    analyze;
  `)
  return {
    async column({ account, group, quantity }) {
      const { rows } = await database.query<{ id: string; cents: string }>(COLUMN, [account, group, quantity])
      return new Map(rows.map(({ id, cents }) => [id, Number(cents)]))
    },
    close: () => database.close(),
  }
}

const COLUMN = `
  with mine as (
    select id as list, code, rank, rule, starts, case who when $1 then 0 when $2 then 1 else 2 end as rung
      from list where who in ($1, $2, 'everyone')
  ), reached as (
    select v.id, v.base, m.code, m.rank, m.rule, m.rung, m.starts, l.position, l.kind, l.amount, l.level as specificity
      from mine m join line l on l.list = m.list and l.level = 4000 and $3 >= l.least and $3 < l.below
      join variant v on v.id = l.target
    union all
    select v.id, v.base, m.code, m.rank, m.rule, m.rung, m.starts, l.position, l.kind, l.amount, l.level
      from mine m join line l on l.list = m.list and l.level = 3000 and $3 >= l.least and $3 < l.below
      join variant v on v.product = l.target
    union all
    select v.id, v.base, m.code, m.rank, m.rule, m.rung, m.starts, l.position, l.kind, l.amount, 1000 - f.distance
      from mine m join line l on l.list = m.list and l.level = 1000 and $3 >= l.least and $3 < l.below
      join filed f on f.category = l.target
      join variant v on v.product = f.product
    union all
    select v.id, v.base, m.code, m.rank, m.rule, m.rung, m.starts, 2147483647, l.kind, l.amount, -1
      from mine m join line l on l.list = m.list and l.level = -1 and $3 >= l.least and $3 < l.below
      cross join variant v
  ), exact as (
    select reached.*, case kind when 'fixed' then amount when 'percent' then base * (100 + amount) / 100 else base + amount end as price
      from reached
  ), rounded as (
    select exact.*, case
        when kind = 'fixed' then price
        when rule = 'step' then greatest(round(price / 0.05) * 0.05, 0.05)
        when rule = 'endings' then greatest(floor(price * 2 + 0.6) / 2 - 0.05, 0.45)
        else greatest(round(price, 2), 0.01) end as unit
      from exact where price > 0
  ), won as (
    select distinct on (id) id, unit from rounded order by id, rung, rank, specificity desc, starts desc, code, position
  )
  select v.id, ((coalesce(w.unit, v.base) * 100)::bigint)::text as cents from variant v left join won w on w.id = v.id`

async function load(database: PGlite, store: Store, at: number): Promise<void> {
  const insert = async (table: string, types: readonly string[], rows: readonly (readonly unknown[])[]) => {
    for (let at = 0; at < rows.length; at += BATCH) {
      const batch = rows.slice(at, at + BATCH)
      const columns = types.map((_, column) => batch.map((row) => row[column]))
      const unnested = types.map((type, column) => `$${column + 1}::${type}[]`).join(', ')
      await database.query(`insert into ${table} select * from unnest(${unnested})`, columns)
    }
  }
  await insert(
    'variant',
    ['text', 'text', 'numeric'],
    [...store.variant.values()].map(({ id, product, basePrice }) => [
      id,
      product,
      basePrice ?? store.product.get(product)?.basePrice,
    ]),
  )
  await insert(
    'filed',
    ['text', 'text', 'int'],
    [...store.product.values()].flatMap(({ id, categories }) =>
      [...distancesUp(store.category, categories)].map(([category, distance]) => [id, category, distance]),
    ),
  )
  const instant = (text: string | null, open: number) => (text === null ? open : Date.parse(`${text}Z`))
  const lists = [...store['price-list'].values()].filter(
    ({ schedule }) =>
      instant(schedule.from, Number.NEGATIVE_INFINITY) <= at &&
      at < instant(schedule.to, Number.POSITIVE_INFINITY),
  )
  await insert(
    'list',
    ['text', 'text', 'text', 'int', 'text', 'bigint'],
    lists.map(({ id, code, audience, rank, rounding, schedule }) => {
      const [term] = audience.include
      const who = term?.kind === 'group' ? term.group : term?.kind === 'account' ? term.account : 'everyone'
      return [id, code, who, rank, rounding?.kind ?? 'cent', instant(schedule.from, 0)]
    }),
  )
  const spread = (list: string, position: number, level: number, target: string, { breaks }: Breaks) =>
    breaks.map(({ from, method }, step) => [
      list,
      position,
      level,
      target,
      Number(from),
      Number(breaks[step + 1]?.from ?? 2_000_000_000),
      method.kind,
      'percent' in method ? method.percent : method.amount,
    ])
  const lines = [...store['price-line'].values()].flatMap((line) => {
    const [term] = line.scope.include
    const [level, target] =
      term?.kind === 'variant'
        ? [4000, term.variant]
        : term?.kind === 'product'
          ? [3000, term.product]
          : [1000, term?.kind === 'category' ? term.category : '']
    return spread(line.list, line.position, level, target, line)
  })
  const defaults = lists.flatMap(({ id, defaultLine }) =>
    defaultLine ? spread(id, 0, -1, '', defaultLine) : [],
  )
  await insert(
    'line',
    ['text', 'int', 'int', 'text', 'int', 'int', 'text', 'numeric'],
    [...lines, ...defaults],
  )
}
