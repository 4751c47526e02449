import { customType } from 'drizzle-orm/pg-core'

/** A column of bytes, as of a file. */
export const bytes = customType<{ data: Uint8Array; driverData: Uint8Array }>({ dataType: () => 'bytea' })
