import type { ImpactView } from '../review/review-view'

/** What moves, and what is wrong with it, in a sentence; `more` is what else is wrong. */
export function ImpactHeadline({
  view: { moved, classCount, belowCost, abovePublic, costs },
  more = [],
}: {
  readonly view: ImpactView
  readonly more?: readonly string[]
}) {
  const wrong = [
    belowCost > 0 ? `${belowCost} ${belowCost === 1 ? 'falls' : 'fall'} below cost` : '',
    ...more,
    abovePublic > 0 ? `${abovePublic} ${abovePublic === 1 ? 'rises' : 'rise'} above what guests pay` : '',
  ].filter(Boolean)
  return (
    <>
      <b>{moved === 0 ? 'No price moves' : `${moved} ${moved === 1 ? 'price moves' : 'prices move'}`}</b>
      {moved > 0 && ` for ${classCount} ${classCount === 1 ? 'kind' : 'kinds'} of buyer`}
      {costs > 0 &&
        (moved === 0 ? `, but the cost of ${costs} does` : `, and the cost of ${costs} others`)}.{' '}
      {wrong.length > 0 && <b className="text-error">{wrong.join(', ')}. </b>}
    </>
  )
}
