/**
 * Units that are measured, not counted: such goods are sold in fractions. Symbols of the SI and of UN/CEFACT
 * Recommendation 20 with their English names (from memory).
 */
const MEASURES = new Set(
  (
    'kg g mg t kilogram kilograms gram grams tonne tonnes l ml cl dl litre litres liter liters millilitre millilitres ' +
    'm cm mm km metre metres meter meters centimetre centimetres m2 m² sqm m3 m³ lb lbs pound pounds oz ounce ounces ' +
    'ft foot feet yd yard yards gal gallon gallons h hour hours kgm grm ltr mtr mtk mtq hur'
  ).split(' '),
)

/** Whether what is sold by a unit may be bought in fractions: "kg" and "metre", but not "each" or "case". */
export function isMeasured(unit: string): boolean {
  return MEASURES.has(unit.trim().toLowerCase())
}
