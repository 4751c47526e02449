/**
 * Minor units of the world's currencies.
 *
 * Source  ISO 4217:2015 list one, publication 2024-06-25. Stored amounts follow this list, not CLDR
 *         (and so not `Intl`), which shows HUF, IDR, IQD and others with fewer digits.
 */
const CODES_BY_DIGITS: Readonly<Record<number, string>> = {
  0: 'BIF CLP DJF GNF ISK JPY KMF KRW PYG RWF UGX UYI VND VUV XAF XOF XPF',
  2:
    'AED AFN ALL AMD ANG AOA ARS AUD AWG AZN BAM BBD BDT BGN BMD BND BOB BOV BRL BSD BTN BWP BYN BZD CAD CDF ' +
    'CHE CHF CHW CNY COP COU CRC CUC CUP CVE CZK DKK DOP DZD EGP ERN ETB EUR FJD FKP GBP GEL GHS GIP GMD GTQ ' +
    'GYD HKD HNL HTG HUF IDR ILS INR IRR JMD KES KGS KHR KPW KYD KZT LAK LBP LKR LRD LSL MAD MDL MGA MKD MMK ' +
    'MNT MOP MRU MUR MVR MWK MXN MXV MYR MZN NAD NGN NIO NOK NPR NZD PAB PEN PGK PHP PKR PLN QAR RON RSD RUB ' +
    'SAR SBD SCR SDG SEK SGD SHP SLE SOS SRD SSP STN SVC SYP SZL THB TJS TMT TOP TRY TTD TWD TZS UAH USD USN ' +
    'UYU UZS VED VES WST XCD YER ZAR ZMW ZWG',
  3: 'BHD IQD JOD KWD LYD OMR TND',
  4: 'CLF UYW',
}

export const MINOR_DIGITS: ReadonlyMap<string, number> = new Map(
  Object.entries(CODES_BY_DIGITS).flatMap(([digits, codes]) =>
    codes.split(' ').map((code) => [code, Number(digits)] as const),
  ),
)

/**
 * How many digits after the point the currency's smallest unit has: 2 for EUR, 0 for JPY, 3 for KWD.
 *
 * Errors  `null` for a code that is not in the list or has no minor unit (gold, test codes).
 */
export function findMinorDigits(currency: string): number | null {
  return MINOR_DIGITS.get(currency) ?? null
}
