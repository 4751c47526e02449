/**
 * How a choice stands: chosen itself, in through something else, in for a part of it, left out itself, left out through
 * something else, or not named.
 */
export type Mark = 'chosen' | 'through' | 'part' | 'out' | 'out-through' | 'none'
