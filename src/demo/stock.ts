/** What the merchant counts of, in pieces, by SKU: what lives, and what comes from far; of the rest there is always some. */
export const DEMO_STOCK: Readonly<Record<string, string>> = {
  'QU-NU-5': '14',
  'QU-NU-6': '6',
  'QU-NU-5P': '0',
  'QU-NB-PL': '22',
  'QU-NB-PO': '0',
  'QU-NB-CC': '160',
  'QU-MN-PO': '40',
  'QU-MN-PI': '3',
  'QU-RK': '5',
  'PK-BK-15': '480',
}
