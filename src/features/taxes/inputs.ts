/** How the small fields of rates look. */
export const RATE_INPUT = 'border border-base-300 bg-lifted px-2 py-1 text-base-content'
