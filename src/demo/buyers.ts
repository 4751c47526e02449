import { decimal } from '@/core/decimal/decimal'
import { RECORD_DEFAULTS } from '@/core/store/record-defaults'
import type { Account, Address, CustomerGroup } from '@/core/buyers/buyer'

export const DEMO_GROUPS: readonly CustomerGroup[] = [
  {
    ...RECORD_DEFAULTS.group,
    id: 'group-retail',
    code: 'retail',
    name: 'Retail',
    trade: false,
    position: 0,
    status: 'active',
  },
  {
    ...RECORD_DEFAULTS.group,
    id: 'group-club',
    code: 'club',
    name: 'Club members',
    trade: false,
    position: 1,
    status: 'active',
  },
  {
    ...RECORD_DEFAULTS.group,
    id: 'group-farms',
    code: 'bee-farms',
    name: 'Bee farms',
    trade: true,
    taxDisplay: 'net',
    cartTaxDisplay: 'net',
    position: 2,
    status: 'active',
  },
  {
    ...RECORD_DEFAULTS.group,
    id: 'group-distributors',
    code: 'distributors',
    name: 'Distributors',
    trade: true,
    taxDisplay: 'net',
    cartTaxDisplay: 'net',
    position: 3,
    status: 'active',
  },
  {
    ...RECORD_DEFAULTS.group,
    id: 'group-schools',
    code: 'schools',
    name: 'Schools',
    trade: false,
    position: 4,
    status: 'active',
  },
]

/** Who signs in beside the address an account is registered with; all of them are made up. */
const PEOPLE: Readonly<Record<string, Account['people']>> = {
  gorseback: [
    person('Orla Duggan', 'orla@gorseback.example', { approves: true }),
    person('Cathal Roe', 'cathal@gorseback.example', { limit: '500' }),
  ],
  fennmoor: [person('Brid Fennell', 'brid@fennmoor.example', { approves: true })],
  tarnside: [person('Eoin Tarrant', 'eoin@tarnside.example')],
}

function person(
  name: string,
  email: string,
  { approves = false, limit }: { readonly approves?: boolean; readonly limit?: string } = {},
): Account['people'][number] {
  return { name, email, approves, limit: limit === undefined ? null : decimal(limit) }
}

type DemoAccount = readonly [
  code: string,
  name: string,
  country: string,
  city: string,
  group: string,
  tags: readonly string[],
  email: string,
]

const ACCOUNTS: readonly DemoAccount[] = [
  ['nuala-byrne', 'Nuala Byrne', 'IE', 'Sligo', 'retail', [], 'nuala@example.com'],
  ['tom-harkin', 'Tom Harkin', 'IE', 'Ennis', 'retail', [], 'tom@example.com'],
  ['ines-carvalho', 'Inês Carvalho', 'PT', 'Braga', 'retail', [], 'ines@example.com'],
  ['marit-solberg', 'Marit Solberg', 'NO', 'Bergen', 'retail', [], 'marit@example.com'],
  ['jonas-weber', 'Jonas Weber', 'DE', 'Freiburg', 'retail', ['newsletter'], 'jonas@example.com'],
  ['aoife-keane', 'Aoife Keane', 'IE', 'Galway', 'club', ['founding member'], 'aoife@example.com'],
  ['peadar-flood', 'Peadar Flood', 'IE', 'Athlone', 'club', [], 'peadar@example.com'],
  ['gwen-pritchard', 'Gwen Pritchard', 'GB', 'Dolgellau', 'club', [], 'gwen@example.com'],
  ['luc-marchand', 'Luc Marchand', 'FR', 'Quimper', 'club', [], 'luc@example.com'],
  [
    'rowan-club',
    'Rowanmoor Beekeepers Club',
    'IE',
    'Carlow',
    'club',
    ['founding member'],
    'club@rowanmoor.example',
  ],
  [
    'fennmoor',
    'Fennmoor Honey Farm',
    'IE',
    'Mullingar',
    'bee-farms',
    ['pallet orders'],
    'orders@fennmoor.example',
  ],
  ['tarnside', 'Tarnside Apiaries', 'IE', 'Kenmare', 'bee-farms', [], 'bees@tarnside.example'],
  ['gorseback', 'Gorseback Bees', 'IE', 'Letterkenny', 'bee-farms', ['organic'], 'hello@gorseback.example'],
  ['heatherlaw', 'Heatherlaw Honey', 'GB', 'Kelso', 'bee-farms', [], 'buying@heatherlaw.example'],
  [
    'rucher-bruyere',
    'Rucher de la Bruyère',
    'FR',
    'Morlaix',
    'bee-farms',
    ['organic'],
    'achats@bruyere.example',
  ],
  ['imkerei-lindental', 'Imkerei Lindental', 'DE', 'Celle', 'bee-farms', [], 'einkauf@lindental.example'],
  ['nordlyng', 'Nordlyng Biavl', 'DK', 'Viborg', 'bee-farms', [], 'indkob@nordlyng.example'],
  [
    'hivewell',
    'Hivewell Supplies',
    'IE',
    'Waterford',
    'distributors',
    ['pallet orders'],
    'stock@hivewell.example',
  ],
  [
    'bienengut',
    'Bienengut Handel',
    'AT',
    'Graz',
    'distributors',
    ['pallet orders'],
    'lager@bienengut.example',
  ],
  ['apicolt', 'Apicolt Forniture', 'IT', 'Cuneo', 'distributors', [], 'ordini@apicolt.example'],
  ['bijenhof', 'Bijenhof Groothandel', 'NL', 'Zwolle', 'distributors', [], 'inkoop@bijenhof.example'],
  [
    'northern-skep',
    'Northern Skep Trading',
    'GB',
    'Hexham',
    'distributors',
    [],
    'trade@northernskep.example',
  ],
  ['st-brans', "St Bran's National School", 'IE', 'Roscommon', 'schools', [], 'office@stbrans.example'],
  [
    'glenmarra-college',
    'Glenmarra Agricultural College',
    'IE',
    'Letterkenny',
    'schools',
    ['organic'],
    'estate@glenmarra.example',
  ],
  ['hollybank', 'Hollybank Community School', 'IE', 'Naas', 'schools', [], 'science@hollybank.example'],
]

/** Where some accounts have things brought to beside their seat. */
const ADDRESSES: Readonly<Record<string, readonly Address[]>> = {
  fennmoor: [
    {
      label: 'North yard',
      street: 'Bog Lane',
      postcode: '',
      city: 'Castlepollard',
      state: '',
      country: 'IE',
    },
  ],
  bienengut: [
    {
      label: 'Warehouse',
      street: 'Lagerweg 4',
      postcode: '8020',
      city: 'Graz',
      state: '',
      country: 'AT',
    },
  ],
}

/** Businesses that account for tax themselves when they buy from another country of the union. */
const TAX_NUMBERS: Readonly<Record<string, string>> = {
  bienengut: 'ATU76543210',
  'imkerei-lindental': 'DE765432109',
  fennmoor: 'IE1122334F',
}

/** Who pays in a currency of their own choice, wherever it is delivered. */
const CURRENCIES: Readonly<Record<string, string>> = { 'northern-skep': 'GBP', nordlyng: 'EUR' }

export const DEMO_ACCOUNTS: readonly Account[] = ACCOUNTS.map(
  ([code, name, country, city, group, tags, email]) => ({
    ...RECORD_DEFAULTS.account,
    id: `account-${code}`,
    code,
    name,
    country,
    city,
    groups: DEMO_GROUPS.filter((each) => each.code === group).map(({ id }) => id),
    tags,
    emails: [email, ...(PEOPLE[code] ?? []).map((each) => each.email)],
    people: PEOPLE[code] ?? [],
    addresses: ADDRESSES[code] ?? [],
    currency: CURRENCIES[code] ?? null,
    taxNumber: TAX_NUMBERS[code] ?? '',
    exemption: code === 'st-brans' ? 'EDU-2044' : '',
    exemptUntil: code === 'st-brans' ? '2027-09-01T00:00' : null,
    paymentTerms: group === 'retail' || group === 'club' ? '' : '30 days net',
    status: 'active',
  }),
)
