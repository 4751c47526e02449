import { currentInstant } from '@/server/clock'
import { Slices } from '@/server/doors/slices'
import { refuse, withStore } from '@/server/doors/with-store'
import { answerQuestions, MOST_QUESTIONS, type PriceAnswer } from '@/server/exchange/price-questions'
import { readBody } from '@/server/exchange/read-body'
import { type NextRequest, NextResponse } from 'next/server'

/** Answers price questions: an array of them in, an array of answers out, in the same order. */
export const POST = withStore(async (request: NextRequest, { prepared }) => {
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
  const slices = new Slices()
  const now = currentInstant().getTime()
  const answers: PriceAnswer[] = []
  for (const question of questions) {
    answers.push(...(answerQuestions(prepared, [question], now) ?? []))
    await slices.rest()
  }
  return NextResponse.json(answers)
})
