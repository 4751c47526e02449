import { shopRoute } from '@/server/session/permit'
import { refuse } from '@/server/doors/with-store'
import { readPicture } from '@/server/pictures/picture-files'

interface Context {
  readonly params: Promise<{ name: string }>
}

/** A picture that was uploaded. It is named after what is in it, so it never changes. */
export const GET = shopRoute(async (_request: Request, { steppe }, { params }: Context) => {
  const picture = await readPicture(steppe.directory, (await params).name)
  if (!picture) return refuse(404, 'unknown-picture', 'There is no such picture.')
  return new Response(picture.bytes, {
    headers: {
      'content-type': picture.type,
      'cache-control': 'public, max-age=31536000, immutable',
      'content-security-policy': "default-src 'none'; style-src 'unsafe-inline'; sandbox",
      'x-content-type-options': 'nosniff',
    },
  })
})
