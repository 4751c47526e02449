import { productsFile } from '@/server/imports/products-file'
import { getPrepared, getSteppe } from '@/server/engine/steppe'

/** All products as a CSV file that can be imported again. */
export async function GET(): Promise<Response> {
  return new Response(productsFile(getPrepared(await getSteppe()).store), {
    headers: {
      'content-type': 'text/csv; charset=utf-8',
      'content-disposition': 'attachment; filename="products.csv"',
    },
  })
}
