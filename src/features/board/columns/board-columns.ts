/** The columns before the buyers': name, base price, cost. */
export const FIXED_COLUMNS = 3
export const BASE_COLUMN = 1
