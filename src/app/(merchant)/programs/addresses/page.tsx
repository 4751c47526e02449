import { AddressesPage } from '@/features/programs/addresses-page'
import { OPERATIONS } from '@/server/exchange/description/operations'
import { merchantPage } from '@/server/session/permit'
import type { Metadata } from 'next'

export const metadata: Metadata = { title: 'What programs can ask' }

export default merchantPage('staff:manage', () => <AddressesPage operations={OPERATIONS} />)
