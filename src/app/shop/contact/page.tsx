import { getSettings } from '@/core/store/store'
import { getPrepared, getSteppe } from '@/server/engine/steppe'

export default async function ShopContact() {
  const { name, shopContact } = getSettings(getPrepared(await getSteppe()).store)
  return (
    <div className="max-w-md">
      <h1 className="pb-2 text-3xl leading-9 font-bold tracking-tight">Contact us</h1>
      <p className="text-base whitespace-pre-line">
        {shopContact || `${name} has not said yet how to reach them.`}
      </p>
    </div>
  )
}
