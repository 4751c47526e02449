'use client'

import { TryAgain } from '@/ui/frame/try-again'

export default function PageError({ reset }: { readonly reset: () => void }) {
  return <TryAgain reset={reset} />
}
