import { merchantRoute } from '@/server/session/permit'
import { loadLineAbout } from '@/features/quotes/offer/load-line-about'
import { refuse } from '@/server/doors/with-store'
import { currentInstant } from '@/server/clock'
import { type NextRequest, NextResponse } from 'next/server'

interface Context {
  readonly params: Promise<{ number: string }>
}

/** What helps to find a price for a line of a quote: `?sku=FR-BR-PF&quantity=48&until=2027-01-28`. */
export const GET = merchantRoute(
  'quotes:work',
  async (request: NextRequest, { steppe, prepared }, { params }: Context) => {
    const { number } = await params
    const fields = request.nextUrl.searchParams
    const field = (name: string) => (fields.get(name) ?? '').slice(0, 100)
    const context = { steppe, prepared, now: currentInstant().getTime() }
    const about = /^\d{1,9}$/.test(number)
      ? await loadLineAbout(context, Number(number), {
          ...{ sku: field('sku'), quantity: field('quantity'), until: field('until') },
        })
      : null
    return about ? NextResponse.json(about) : refuse(404, 'no-such-line', 'There is no such quote or item.')
  },
)
