/** The parts of an address that a rate can be for, the nearest first. */
export const PLACE_FIELDS = [
  ['city', 'City', 'w-28'],
  ['postcode', 'Postcode', 'w-28'],
  ['state', 'State', 'w-16 uppercase placeholder:normal-case'],
  ['country', 'Country', 'w-20 uppercase placeholder:normal-case'],
] as const

export const FIELD = 'border border-base-300 bg-lifted px-2 py-1'
