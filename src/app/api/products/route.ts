import { merchantRoute } from '@/server/session/permit'
import { productsFile } from '@/server/imports/products/products-file'
import { readStock } from '@/server/stock/stock-levels'

/** All products as a CSV file that can be imported again. */
export const GET = merchantRoute(
  'prices:look',
  async (_request, { steppe, prepared }) =>
    new Response(productsFile(prepared.store, await readStock(steppe.database)), {
      headers: {
        'content-type': 'text/csv; charset=utf-8',
        'content-disposition': 'attachment; filename="products.csv"',
      },
    }),
)
