/** What one of some things holds, by SKU, so that the shop says what a kilogram, litre or piece of them costs. */
export const DEMO_CONTENT: Readonly<Record<string, string>> = {
  'FD-SY-14': '14 kg',
  'FD-SY-28': '28 kg',
  'FD-SY-1300': '1300 kg',
  'FD-SS-1': '1 l',
  'FD-SS-5': '5 l',
  'FD-FO-1': '1 kg',
  'FD-FO-25': '2.5 kg',
  'FD-FO-12': '12.5 kg',
  'PK-JR-42': '48 pieces',
  'PK-JR-227': '24 pieces',
  'PK-JR-340': '12 pieces',
  'PK-JR-454': '12 pieces',
  'PK-JR-1000': '6 pieces',
  'PK-JH-110': '24 pieces',
  'PK-JH-280': '12 pieces',
  'PK-JH-380': '12 pieces',
}
