import { merchantPage } from '@/server/session/permit'
import { MINOR_DIGITS } from '@/core/currency/iso-4217'
import { countryCodes } from '@/core/places/iso-3166'
import { SetUpForm } from '@/features/set-up/set-up-form'
import { getSteppe } from '@/server/engine/steppe'
import { countryName, currencyName } from '@/ui/format/place-names'
import type { Metadata } from 'next'
import { redirect } from 'next/navigation'
import { connection } from 'next/server'

export const metadata: Metadata = { title: 'Set up' }

export default merchantPage('live:edit', async () => {
  await connection()
  if ((await getSteppe()).prepared) redirect('/board')
  const named = (codes: Iterable<string>, nameOf: (code: string) => string) =>
    [...codes]
      .map((code) => ({ code, name: nameOf(code) }))
      .sort((left, right) => left.name.localeCompare(right.name, 'en'))
  return (
    <SetUpForm
      countries={named(countryCodes(), countryName)}
      currencies={named(MINOR_DIGITS.keys(), currencyName)}
      timeZones={Intl.supportedValuesOf('timeZone')}
    />
  )
})
