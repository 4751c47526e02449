import { merchantRoute } from '@/server/session/permit'
import { readBytes } from '@/server/exchange/read-body'
import { keepPicture, LARGEST_PICTURE } from '@/server/pictures/picture-files'
import { type NextRequest, NextResponse } from 'next/server'

/** Takes a picture of a product; the file is the body. */
export const POST = merchantRoute('drafts:edit', async (request: NextRequest, { steppe }) => {
  const bytes = await readBytes(request, LARGEST_PICTURE)
  if (!bytes)
    return NextResponse.json(
      {
        ok: false,
        problem: 'The picture is larger than 2 MB. Make it smaller: 1,200 pixels across are enough.',
      },
      { status: 413 },
    )
  const outcome = await keepPicture(steppe.directory, bytes)
  return NextResponse.json(outcome, { status: outcome.ok ? 201 : 422 })
})
