import { getSettings } from '@/core/store/store'
import { getPrepared, getSteppe } from '@/server/engine/steppe'

export default async function ShopContact() {
  const { name } = getSettings(getPrepared(await getSteppe()).store)
  return (
    <div className="max-w-md">
      <h1 className="pb-2 text-3xl leading-9 font-bold tracking-tight">How to reach us</h1>
      <p className="text-base">
        {name} answers at <b>hello@shop.example</b>, on weekdays from nine to five. Tell us what you are
        looking for, and who you are to us.
      </p>
    </div>
  )
}
