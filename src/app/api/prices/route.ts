import type { PreparedStore } from '@/core/engine/context/prepared-store'
import type { Sight } from '@/core/engine/context/narrowed'
import { sightOf } from '@/server/session/doing'
import { currentInstant } from '@/server/clock'
import { Slices } from '@/server/doors/slices'
import { machineRoute } from '@/server/session/permit'
import { refuse, withStore } from '@/server/doors/with-store'
import {
  answerQuestion,
  answerWithoutCosts,
  type Beside,
  draftOfQuestion,
  type PriceAnswer,
  stockOfQuestions,
} from '@/server/exchange/price-questions'
import { MOST_QUESTIONS } from '@/server/exchange/question-shape'
import { draftStores } from '@/server/drafts/draft-stores'
import { arrayText, textStream } from '@/server/doors/text-stream'
import { readStock } from '@/server/stock/stock-levels'
import { readBody } from '@/server/exchange/read-body'
import { type NextRequest, NextResponse } from 'next/server'

/** Answers price questions: an array of them in, an array of answers out, in the same order. */
const answerAll = withStore(async (request: NextRequest, { steppe, prepared }, { hidesCosts }: Sight) => {
  const body = await readBody(request)
  if (!body.ok) return NextResponse.json({ error: body.error }, { status: body.status })
  if (!Array.isArray(body.value)) return refuse(400, 'malformed', 'Send an array of questions.')
  const questions: readonly unknown[] = body.value
  if (questions.length > MOST_QUESTIONS)
    return refuse(
      413,
      'too-many',
      `Send at most ${MOST_QUESTIONS} questions at once; these are ${questions.length}.`,
    )
  const drafts = questions.some((each) => draftOfQuestion(each) !== null)
    ? await draftStores(steppe)
    : undefined
  const stock = await readStock(steppe.database, stockOfQuestions(prepared, questions))
  const answers = answersTo(prepared, questions, currentInstant().getTime(), { drafts, stock, hidesCosts })
  return new Response(textStream(arrayText(answers)), { headers: { 'content-type': 'application/json' } })
})

export const POST = machineRoute<NextRequest>(
  { scope: 'prices:ask', permission: 'prices:look' },
  (request, doer) => answerAll(request, sightOf(doer)),
)

async function* answersTo(
  prepared: PreparedStore,
  questions: readonly unknown[],
  now: number,
  { hidesCosts, ...beside }: Beside & Pick<Sight, 'hidesCosts'>,
): AsyncGenerator<readonly PriceAnswer[]> {
  const slices = new Slices()
  for (const question of questions) {
    const answer = answerQuestion(prepared, question, now, beside)
    yield [hidesCosts ? answerWithoutCosts(answer) : answer]
    await slices.rest()
  }
}
