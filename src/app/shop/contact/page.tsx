import { shopPage } from '@/server/session/permit'
import { getSettings } from '@/core/store/store'
import { shopView } from '@/server/session/shop-session'

export default shopPage(async () => {
  const { name, shopContact } = getSettings((await shopView()).prepared.store)
  return (
    <div className="max-w-md">
      <h1 className="pb-2 text-3xl leading-9 font-bold tracking-tight">Contact us</h1>
      <p className="text-base whitespace-pre-line">
        {shopContact || `${name} has not said yet how to reach them.`}
      </p>
    </div>
  )
})
