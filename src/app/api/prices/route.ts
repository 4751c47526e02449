import { getPrepared, getSteppe } from '@/server/engine/steppe'
import { answerQuestions } from '@/server/exchange/price-questions'
import { readBody } from '@/server/exchange/read-body'
import { type NextRequest, NextResponse } from 'next/server'
import { currentInstant } from '@/server/clock'

/** Answers price questions: an array of them in, an array of answers out, in the same order. */
export async function POST(request: NextRequest): Promise<NextResponse> {
  const body = await readBody(request)
  if (!body.ok) return NextResponse.json({ error: body.error }, { status: 400 })
  const answers = answerQuestions(getPrepared(await getSteppe()), body.value, currentInstant().getTime())
  return answers
    ? NextResponse.json(answers)
    : NextResponse.json(
        {
          error: {
            code: 'malformed',
            where: '',
            value: typeof body.value,
            expected: 'an array of questions',
          },
        },
        { status: 400 },
      )
}
