import { loadPrograms } from '@/features/programs/load-programs'
import { ProgramsPage } from '@/features/programs/programs-page'
import { merchantPage } from '@/server/session/permit'
import type { Metadata } from 'next'

export const metadata: Metadata = { title: 'Programs' }

export default merchantPage('staff:manage', async () => <ProgramsPage programs={await loadPrograms()} />)
