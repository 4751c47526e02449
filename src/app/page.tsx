import { openPage } from '@/server/session/permit'
import { redirect } from 'next/navigation'

/** The board is home. */
export default openPage('leads on to a place that asks', () => redirect('/board'))
