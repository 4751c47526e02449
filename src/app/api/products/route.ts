import { withStore } from '@/server/doors/with-store'
import { productsFile } from '@/server/imports/products/products-file'

/** All products as a CSV file that can be imported again. */
export const GET = withStore(
  (_request, { prepared }) =>
    new Response(productsFile(prepared.store), {
      headers: {
        'content-type': 'text/csv; charset=utf-8',
        'content-disposition': 'attachment; filename="products.csv"',
      },
    }),
)
