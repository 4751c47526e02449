'use client'

import type { Operation, OperationExample } from '@/server/exchange/description/operations'
import { NO_ANSWER } from '@/ui/format/no-answer'
import { scopeWords } from '@/ui/format/permission-words'
import { VantageLink } from '@/ui/frame/vantage-link'
import { useState, useTransition } from 'react'

interface Answered {
  readonly status: string
  readonly text: string
}

const LONGEST_SHOWN = 6_000

/** Everything programs can ask, with examples that can be tried with a key. */
export function AddressesPage({ operations }: { readonly operations: readonly Operation[] }) {
  const [key, setKey] = useState('')
  return (
    <section className="min-h-0 flex-1 overflow-auto px-6 pt-3 pb-10" aria-label="What programs can ask">
      <header className="flex flex-wrap items-baseline gap-x-5">
        <h1 className="text-xl leading-7 font-semibold">What programs can ask</h1>
        <VantageLink href="/programs" className="link-name">
          Programs and their keys
        </VantageLink>
        <a href="/api/openapi.json" target="_blank" className="link-name">
          The same for machines (OpenAPI 3.1)
        </a>
      </header>
      <label className="flex flex-wrap items-baseline gap-x-3 pt-4">
        <span>Try the examples with a key</span>
        <input
          className="w-96 border border-base-300 bg-lifted px-2 py-1"
          value={key}
          onChange={(event) => setKey(event.target.value)}
          autoComplete="off"
          spellCheck={false}
        />
        <span className="text-soft">
          It is sent to this Steppe alone, and not kept. Without one, you ask as yourself.
        </span>
      </label>
      {operations.map((operation) => (
        <OperationSection key={operation.id} operation={operation} keyword={key.trim()} />
      ))}
    </section>
  )
}

function OperationSection({
  operation,
  keyword,
}: {
  readonly operation: Operation
  readonly keyword: string
}) {
  const { method, path, scope, summary, about, parameters, answers, examples } = operation
  return (
    <section className="max-w-5xl pt-7" aria-label={summary}>
      <h2 className="flex flex-wrap items-baseline gap-x-4 border-b border-base-content pb-1 font-semibold">
        {summary}
        <code className="font-normal">
          {method.toUpperCase()} {path}
        </code>
        <span className="ml-auto text-xs font-normal text-soft">
          {scope === null ? 'for anybody' : `for keys that may ${scopeWords(scope)} (${scope})`}
        </span>
      </h2>
      <p className="pt-2">{withCode(about)}</p>
      {parameters.length > 0 && (
        <dl className="grid grid-cols-[140px_1fr] gap-x-4 pt-2">
          {parameters.map(({ name, about: told, isRequired }) => (
            <div key={name} className="contents">
              <dt>
                <code>{name}</code>
              </dt>
              <dd className="text-soft">
                {withCode(told)}
                {isRequired && ' (needed)'}
              </dd>
            </div>
          ))}
        </dl>
      )}
      <p className="pt-2 text-soft">
        Answers: {answers.map(({ status, about: told }) => `${status} ${told.toLowerCase()}`).join(' · ')}
      </p>
      {examples.map((example) => (
        <Example key={example.name} operation={operation} example={example} keyword={keyword} />
      ))}
    </section>
  )
}

function Example({
  operation: { method, path },
  example: { name, query = '', body },
  keyword,
}: {
  readonly operation: Operation
  readonly example: OperationExample
  readonly keyword: string
}) {
  const [answered, setAnswered] = useState<Answered | null>(null)
  const [isBusy, start] = useTransition()
  const ask = () =>
    start(async () => {
      setAnswered(await send(method, `${path}${query}`, body, keyword))
    })
  return (
    <div className="mt-3 border-l-4 border-base-300 pl-4">
      <p className="flex items-baseline gap-4">
        <b className="font-semibold">{name}</b>
        <button
          type="button"
          className="link-name"
          disabled={isBusy}
          onClick={ask}
          aria-label={`Ask: ${name}`}
        >
          Ask
        </button>
      </p>
      {query !== '' && <code className="text-xs">{query}</code>}
      {body !== undefined && <pre className="text-xs whitespace-pre-wrap text-soft">{written(body)}</pre>}
      {answered && (
        <div role="status" className="bg-base-200 px-3 py-2">
          <b className="font-semibold">{answered.status}</b>
          <pre className="max-h-80 overflow-auto text-xs">{answered.text}</pre>
        </div>
      )}
    </div>
  )
}

/** An array with an entry a line, as people would write it. */
function written(body: unknown): string {
  const flat = (each: unknown) => JSON.stringify(each, null, 1).replace(/\n\s*/g, ' ')
  return Array.isArray(body) ? `[\n${body.map((each) => `  ${flat(each)}`).join(',\n')}\n]` : flat(body)
}

async function send(method: string, path: string, body: unknown, keyword: string): Promise<Answered> {
  try {
    const answer = await fetch(path, {
      method: method.toUpperCase(),
      headers: {
        ...(body !== undefined && { 'content-type': 'application/json' }),
        ...(keyword !== '' && { authorization: `Bearer ${keyword}` }),
      },
      ...(body !== undefined && { body: JSON.stringify(body) }),
    })
    const text = await answer.text()
    return { status: `${answer.status} ${answer.statusText}`, text: shown(text) }
  } catch {
    return { status: NO_ANSWER, text: '' }
  }
}

function shown(text: string): string {
  let whole = text
  try {
    whole = JSON.stringify(JSON.parse(text), null, 2)
  } catch {
    // What is no JSON is shown as it came.
  }
  return whole.length > LONGEST_SHOWN
    ? `${whole.slice(0, LONGEST_SHOWN)}\n… and ${whole.length - LONGEST_SHOWN} more characters`
    : whole
}

/** Words between backticks as code. */
function withCode(text: string) {
  return text.split('`').map((part, at) => (at % 2 === 0 ? part : <code key={at}>{part}</code>))
}
