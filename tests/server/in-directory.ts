import { isOnServer } from './temporary-directory'

/** A test of a database that lies in its data directory itself; left out where tests run on a server. */
export const testInDirectory: typeof test = isOnServer ? test.skip : test
/** The same of all that stands together. */
export const describeInDirectory: typeof describe = isOnServer ? describe.skip : describe
