import type { RepriceView } from './reprice-view'

const HEIGHT = 90
const WIDTH = 240

/** What the rule comes to, over all rows. */
export function RepriceSide({ view }: { readonly view: RepriceView }) {
  const { median, middleHalf, counts, bars, margin, belowCost, fixedLines, draft } = view
  const changing = counts.all - counts.same - counts.problems
  return (
    <aside
      aria-label="What the rule comes to"
      className="w-[272px] shrink-0 overflow-auto border-l border-base-300 bg-lifted px-4 pt-4 pb-8"
    >
      <h2 className="text-2xl leading-7 font-semibold">{median}</h2>
      <p className="font-semibold">
        is the middle change of {changing} {changing === 1 ? 'amount' : 'amounts'}
      </p>
      {middleHalf && <p className="text-soft">Half of them move between {middleHalf}</p>}
      <Histogram bars={bars} />
      {margin && (
        <Part title="Margin, one of each">
          <p className="flex justify-between border-b border-dotted border-base-300 py-1">
            <span className="text-soft">now</span> {margin.now}
          </p>
          <p className="flex justify-between border-b border-dotted border-base-300 py-1">
            <span className="text-soft">new</span> <b>{margin.next}</b>
          </p>
        </Part>
      )}
      {fixedLines !== null && (
        <Part title="What stays behind">
          <p>
            {fixedLines === 0
              ? 'No list fixes a price of what changes.'
              : `${fixedLines} ${fixedLines === 1 ? 'line of a list fixes a price and does' : 'lines of lists fix prices and do'} not follow.`}
          </p>
        </Part>
      )}
      <Part title="Checks">
        <p className={belowCost > 0 ? 'font-semibold text-error' : ''}>
          {belowCost === 0 ? 'No amount falls below cost.' : `${belowCost} fall below cost.`}
        </p>
        {counts.same > 0 && <p>{counts.same} stay as they are.</p>}
        {counts.problems > 0 && (
          <p className="text-error">{counts.problems} cannot be changed by this rule.</p>
        )}
        {draft && draft.already > 0 && (
          <p className="text-warning-content">
            {draft.already} are changed in “{draft.name}” already: the rule starts from what the draft says.
          </p>
        )}
      </Part>
    </aside>
  )
}

function Part({ title, children }: { readonly title: string; readonly children: React.ReactNode }) {
  return (
    <section className="pt-4">
      <h3 className="pb-0.5 text-xs font-semibold">{title}</h3>
      {children}
    </section>
  )
}

function Histogram({ bars }: Pick<RepriceView, 'bars'>) {
  const most = Math.max(1, ...bars.map(({ count }) => count))
  const width = WIDTH / Math.max(1, bars.length)
  const [first, last] = [bars[0], bars.at(-1)]
  if (!first || !last) return null
  const text = (percent: number) => `${percent > 0 ? '+' : ''}${percent.toFixed(1).replace('-', '−')} %`
  return (
    <figure className="pt-3" aria-label="How many amounts move how far">
      <svg viewBox={`0 0 ${WIDTH} ${HEIGHT}`} width={WIDTH} height={HEIGHT} role="img" aria-hidden>
        {bars.map(({ from, count, isOutlier }, at) => (
          <g key={from}>
            <rect
              x={at * width + 1}
              y={HEIGHT - (count / most) * (HEIGHT - 16)}
              width={Math.max(2, width - 2)}
              height={(count / most) * (HEIGHT - 16)}
              fill={isOutlier ? 'var(--color-accent)' : 'var(--color-bar)'}
            />
            {count > 0 && (
              <text
                x={at * width + width / 2}
                y={HEIGHT - (count / most) * (HEIGHT - 16) - 3}
                fontSize={10}
                textAnchor="middle"
                fill="var(--color-soft)"
              >
                {count}
              </text>
            )}
          </g>
        ))}
      </svg>
      <figcaption className="flex justify-between text-xs text-soft">
        <span>{text(first.from)}</span>
        <span>{text(last.to)}</span>
      </figcaption>
    </figure>
  )
}
