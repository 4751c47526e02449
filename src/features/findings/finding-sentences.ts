import type { Finding, FindingCode, FindingGroup } from '@/core/finding/finding'

export const GROUP_WORDS: Readonly<Record<FindingGroup, string>> = {
  'loses-money': 'Loses money',
  'wrong-for-buyers': 'Wrong for buyers',
  soon: 'Soon',
  untidy: 'Untidy',
}

const PLACES: Readonly<Record<string, string>> = {
  'price-list': 'Price lists',
  contract: 'Contracts',
  product: 'Products',
  variant: 'Products',
  limit: 'Limits',
  adjustment: 'Adjustments',
  'access-rule': 'Access',
  passcode: 'Access',
  promotion: 'Promotions',
  currency: 'Currencies',
  'tax-class': 'Taxes',
  account: 'Buyers',
}

/** The place a finding is counted at. */
export const placeOf = ({ cause }: Finding): string => PLACES[cause.kind] ?? 'Store'

const many = (count: number, one: string, more: string) => (count === 1 ? one : more)

type Say = (finding: Finding) => string

/** What is the matter, behind how many cases there are. */
const SENTENCES: Readonly<Record<FindingCode, Say>> = {
  'below-cost': ({ count }) => many(count, 'price is below cost', 'prices are below cost'),
  'above-public': ({ count }) =>
    many(count, 'price is above what guests pay', 'prices are above what guests pay'),
  'break-gap': ({ facts }) =>
    `quantity break is dearer than the one before: from ${facts['from']} it is ${facts['more']}, before ${facts['less']}`,
  'no-price': ({ count }) =>
    many(count, 'item is shown to somebody without a price', 'items are shown to somebody without a price'),
  'contract-ends': ({ facts }) => `contract ends in ${facts['days']} days and nothing follows it`,
  'contract-ended': ({ facts }) =>
    `contract ended ${facts['days']} days ago: its buyers pay as their group again`,
  'list-over': ({ facts }) => `price list is over since ${facts['day']} and still switched on`,
  'passcode-over': ({ facts }) => `passcode opens nothing any more since ${facts['day']}`,
  'exemption-over': ({ facts }) => `tax certificate expired on ${facts['day']}: the account pays tax again`,
  'stale-rate': ({ facts }) => `exchange rate is ${facts['days']} days old, ${facts['limit']} are allowed`,
  'no-exchange-rate': () =>
    'currency has no exchange rate: prices in it are missing where no list has its own',
  'rate-leaps': ({ facts }) =>
    `published rate waits for you: ${facts['rate']} on ${facts['day']} instead of ${facts['was']}, ${facts['change']} %`,
  'rate-missing': ({ facts }) =>
    `currency follows published rates, and those of ${facts['day']} leave it out`,
  'rate-late': ({ facts }) => `currency follows published rates, and the last are of ${facts['day']}`,
  'no-tax-rate': ({ facts }) => `tax class has no rate in a place you serve: ${facts['place']}`,
  'only-listed': ({ facts }) =>
    `list offers only what it lists, and contract ${facts['contracts']} has no assortment`,
  'list-reaches-nobody': () => 'price list is for nobody there is',
  'line-reaches-nothing': ({ count }) =>
    many(count, 'line is for nothing that is sold', 'lines are for nothing that is sold'),
  'rule-reaches-nothing': ({ facts }) => `rule is switched on and for ${facts['what']} there is`,
  'promotions-clash': ({ facts }) =>
    `pair of promotions shares priority ${facts['rank']} on ${facts['count']} variants, the other is ${facts['other']}`,
  'ending-missed': ({ count }) =>
    many(count, 'fixed price misses the endings of its list', 'fixed prices miss the endings of their list'),
  'gift-hidden': ({ count }) =>
    many(
      count,
      'kind of buyer is given an item it is not shown',
      'kinds of buyers are given an item they are not shown',
    ),
  'unsold-at-loss': ({ count }) =>
    many(
      count,
      'variant is offered below cost, and nobody has bought it for 90 days',
      'variants are offered below cost, and nobody has bought them for 90 days',
    ),
  'struck-unlawful': ({ count }) =>
    many(
      count,
      'price is struck through that is above the lowest of the last 30 days',
      'prices are struck through that are above the lowest of the last 30 days',
    ),
  'lists-tie': ({ facts }) =>
    `pair of price lists shares rank ${facts['rank']} and disagrees on ${facts['count']} ${many(Number(facts['count']), 'variant', 'variants')}, the other is ${facts['other']}: only their codes decide`,
}

export function findingSentence(finding: Finding): string {
  return SENTENCES[finding.code](finding)
}

/** What putting it right does, where that can be done at once. */
export const FIX_WORDS: Readonly<Partial<Record<FindingCode, string>>> = {
  'below-cost': 'Raise to 5 % margin',
  'above-public': 'Cap at the public price',
  'contract-ended': 'Mark it as ended',
  'list-over': 'Archive the list',
  'passcode-over': 'Archive the passcode',
  'list-reaches-nobody': 'Switch it off',
  'line-reaches-nothing': 'Remove the lines',
  'rule-reaches-nothing': 'Switch it off',
  'promotions-clash': 'Put the other one after it',
  'ending-missed': 'Move to the ending',
  'lists-tie': 'Put the other one after it',
  'struck-unlawful': 'Strike through that price',
}
