import type { NextConfig } from 'next'

const config: NextConfig = {
  serverExternalPackages: ['@electric-sql/pglite'],
  images: { unoptimized: true },
  poweredByHeader: false,
  devIndicators: false,
  typescript: { tsconfigPath: 'tsconfig.json' },
}

export default config
