import 'server-only'

import { DiskFullError } from '@/server/database/disk-room'
import { redirect } from 'next/navigation'

/** What a buyer reads when the shop can save nothing for the moment. */
export const NO_ROOM =
  'The shop cannot save anything at the moment. Nothing is lost; please try again in a while.'

/** Writes what a buyer wants; when the disk has no room a page of its own says so, with nothing lost. */
export function withRoom<Result>(write: () => Promise<Result>): Promise<Result> {
  return withRoomOr(write, () => redirect('/shop/later'))
}

/** As `withRoom`, for what can say it beside its field. */
export async function withRoomOr<Result, Otherwise>(
  write: () => Promise<Result>,
  otherwise: () => Otherwise,
): Promise<Result | Otherwise> {
  try {
    return await write()
  } catch (error) {
    if (error instanceof DiskFullError) return otherwise()
    throw error
  }
}
