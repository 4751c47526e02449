import { formatMoney } from '@/ui/format/amount'
import type { CartView } from './cart-view'
import { chooseOffer, enterCode, removeCode } from './promotion-actions'

const BUTTON =
  'rounded-field border border-base-content/40 px-2.5 py-0.5 font-semibold hover:border-base-content'

/** What promotions offer beside the lines: gifts to take or leave, what little more would bring, and codes. */
export function CartPromotions({ view }: { readonly view: CartView }) {
  const { promotions, currency, digits } = view
  const { hints, offers, codes } = promotions
  return (
    <section aria-label="Promotions" className="grid gap-2 pt-4">
      {offers.map(({ code, name, saves, choice }) => (
        <form key={code} action={chooseOffer} className="flex flex-wrap items-center gap-3">
          <input type="hidden" name="offer" value={code} />
          <span>
            <b>{name}</b>: worth {formatMoney(saves, currency, digits)}
            {choice === 'taken' && ', taken'}
            {choice === 'left' && ', left'}
          </span>
          {choice !== 'taken' && (
            <button type="submit" name="choice" value="taken" className={BUTTON}>
              Take
            </button>
          )}
          {choice !== 'left' && (
            <button type="submit" name="choice" value="left" className={BUTTON}>
              Leave
            </button>
          )}
        </form>
      ))}
      {hints.map(({ name, text }) => (
        <p key={name} className="border-l-4 border-primary pl-3">
          {text}
        </p>
      ))}
      {codes.map(({ code, text, isUsed }) => (
        <form key={code} action={removeCode} className="flex flex-wrap items-center gap-3">
          <input type="hidden" name="code" value={code} />
          <span className={isUsed ? '' : 'text-soft'}>
            Code <b>{code}</b>: {text}
          </span>
          <button type="submit" className="shop-link">
            Remove
          </button>
        </form>
      ))}
      <form action={enterCode} className="flex flex-wrap items-center gap-3">
        <label className="flex items-center gap-3">
          Code
          <input name="code" required maxLength={60} autoComplete="off" className="input h-9 w-40" />
        </label>
        <button type="submit" className={BUTTON}>
          Use the code
        </button>
      </form>
    </section>
  )
}
