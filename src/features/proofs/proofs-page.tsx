import { VantageLink } from '@/ui/frame/vantage-link'
import { IconCheck, IconMinus, IconX } from '@tabler/icons-react'
import type { ProofRow, ProofsView, VerdictView } from './load-proofs'

/** What must stay true, and whether it does. */
export function ProofsPage({ view }: { readonly view: ProofsView }) {
  const { groups, draftCounts, live } = view
  return (
    <section className="min-h-0 flex-1 overflow-auto px-6 pt-3 pb-8" aria-label="Proofs">
      <header className="flex flex-wrap items-baseline gap-x-4">
        <h1 className="text-xl leading-7 font-semibold">Proofs</h1>
        <p className="text-soft">
          What must stay true, whatever anybody changes. Run before each publication.
        </p>
        {live && (
          <VantageLink href="/proofs/new" className="ml-auto link-name">
            Write one
          </VantageLink>
        )}
      </header>
      {groups.length === 0 ? (
        <p className="max-w-xl py-4 text-soft">
          None is written yet. A proof keeps a promise: “Fennmoor pays at most 21.65 until April”, “guests
          never see treatments”, “no trade price leaves less than 18 %”. Write one, or open a price’s trace
          and keep it.
        </p>
      ) : (
        <>
          <p className="pt-1 pb-3 text-base">
            <Counts view={view} />
          </p>
          <table className="w-full table-fixed">
            <thead>
              <tr className="border-b border-base-content text-left">
                <th className="py-1 pr-4 font-semibold">What must be true</th>
                <th className="w-[150px] py-1 pr-4 font-semibold">Holds or broken since</th>
                <th className="w-[130px] py-1 pr-4 font-semibold">Live</th>
                {draftCounts && <th className="w-[150px] py-1 font-semibold">Draft “{draftCounts.name}”</th>}
              </tr>
            </thead>
            {groups.map(({ title, rows }) => (
              <tbody key={title}>
                <tr>
                  <th colSpan={4} className="pt-3 pb-1 text-left text-xs font-semibold text-soft">
                    {title}
                  </th>
                </tr>
                {rows.map((row) => (
                  <Row key={row.id} row={row} />
                ))}
              </tbody>
            ))}
          </table>
        </>
      )}
    </section>
  )
}

function Counts({ view: { counts, draftCounts, checked } }: { readonly view: ProofsView }) {
  const told = ({ holds, broken }: ProofsView['counts']) => (
    <>
      <b>{holds} hold</b>
      {broken > 0 && (
        <>
          {' '}
          and <b className="text-error">{broken === 1 ? '1 is broken' : `${broken} are broken`}</b>
        </>
      )}
    </>
  )
  return (
    <>
      Live, {told(counts)}.{' '}
      {draftCounts && (
        <>
          In draft “{draftCounts.name}”, {told(draftCounts)}.{' '}
        </>
      )}
      <span className="text-sm text-soft">Asked of {checked.toLocaleString('en-IE')} buyers and items.</span>
    </>
  )
}

function Row({ row: { href, sentence, about, since, live, draft, broken } }: { readonly row: ProofRow }) {
  const shown = draft ?? live
  const isBad = shown.state === 'broken' || shown.state === 'empty'
  return (
    <tr className="border-b border-base-300 align-baseline">
      <td className="py-1.5 pr-4">
        <VantageLink href={href} className="font-medium hover:underline">
          {sentence}
        </VantageLink>
        {about && <span className="text-xs text-soft"> {about}</span>}
        {isBad &&
          broken.map(({ who, as, title, sku, found }) => (
            <span key={`${who} ${sku}`} className="block text-xs text-soft">
              {who}:{' '}
              {sku === '' ? (
                title
              ) : (
                <VantageLink
                  href={`/board?find=${encodeURIComponent(sku)}`}
                  lookAs={as}
                  className="link-name"
                >
                  {title}
                </VantageLink>
              )}{' '}
              <b className="text-error">{found}</b>
            </span>
          ))}
        {shown.state === 'empty' && (
          <span className="block text-xs text-error">
            It is about nobody, or nothing that is sold any more. Open it to name something else, or archive
            it.
          </span>
        )}
      </td>
      <td className="py-1.5 pr-4 text-soft">{since}</td>
      <VerdictCell verdict={live} isTinted={false} />
      {draft && <VerdictCell verdict={draft} isTinted={draft.state !== live.state} />}
    </tr>
  )
}

function VerdictCell({
  verdict: { state, text },
  isTinted,
}: {
  readonly verdict: VerdictView
  readonly isTinted: boolean
}) {
  const isBad = state === 'broken' || state === 'empty'
  const Icon = state === 'holds' ? IconCheck : isBad ? IconX : IconMinus
  const word = state === 'holds' ? 'holds' : isBad ? 'broken' : 'not asked'
  return (
    <td className={`py-1.5 pr-4 whitespace-nowrap ${isTinted ? 'bg-warning' : ''}`}>
      <span className={isBad ? 'font-semibold text-error' : state === 'idle' ? 'text-soft' : ''}>
        <Icon
          size={14}
          stroke={2.25}
          aria-hidden
          className={`mr-1.5 inline ${state === 'holds' ? 'text-primary' : ''}`}
        />
        <span className="sr-only">{word}: </span>
        {text}
      </span>
    </td>
  )
}
