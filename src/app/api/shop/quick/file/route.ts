import { shopRoute } from '@/server/session/permit'
import { enterShopPage } from '@/features/shop/entrance/enter'
import { readRowsFile } from '@/features/shop/quick/read-rows-file'
import { readBytes } from '@/server/exchange/read-body'
import { type NextRequest, NextResponse } from 'next/server'

const LARGEST_FILE = 4 * 2 ** 20

/** Reads the rows of a quick order out of a CSV or XLSX file. */
export const POST = shopRoute(async (request: NextRequest) => {
  await enterShopPage()
  const bytes = await readBytes(request, LARGEST_FILE)
  if (!bytes) return NextResponse.json({ problem: 'The file is larger than 4 MB.' }, { status: 413 })
  const read = await readRowsFile(bytes)
  return NextResponse.json(read, { status: 'problem' in read ? 422 : 200 })
})
