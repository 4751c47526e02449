'use client'

import { useEffect, useState } from 'react'
import { useRuleSource } from '../picker-sources'
import type { RuleContext, TriedRule } from './rule-choices'

/** What the rule would do, asked anew a moment after the last key. */
export function useTried(context: Omit<RuleContext, 'vantage'>, rule: string | null): TriedRule | null {
  const { tryRule } = useRuleSource()
  const [tried, setTried] = useState<TriedRule | null>(null)
  const { list, line, what, party } = context
  const key = JSON.stringify({ list, line, what, party })
  useEffect(() => {
    if (rule === null || rule.trim() === '') return
    let isCurrent = true
    const wait = setTimeout(() => {
      tryRule(JSON.parse(key) as Omit<RuleContext, 'vantage'>, rule).then(
        (next) => isCurrent && setTried(next),
        () => isCurrent && setTried({ ok: false, problem: 'The server did not answer.' }),
      )
    }, 120)
    return () => {
      isCurrent = false
      clearTimeout(wait)
    }
  }, [key, rule, tryRule])
  return rule === null ? null : tried
}
