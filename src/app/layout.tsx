import { parseTheme, THEME_COOKIE } from '@/ui/theme/theme'
import type { Metadata } from 'next'
import { cookies } from 'next/headers'
import type { ReactNode } from 'react'
import './globals.css'

export const metadata: Metadata = {
  title: { default: 'Steppe', template: '%s · Steppe' },
  description: 'Who buys what at which price, and why.',
}

export default async function RootLayout({ children }: { readonly children: ReactNode }) {
  const theme = parseTheme((await cookies()).get(THEME_COOKIE)?.value)
  return (
    <html lang="en-IE" data-theme={theme}>
      <body className="bg-base-100 text-base-content">{children}</body>
    </html>
  )
}
