import { defineConfig } from 'drizzle-kit'

export default defineConfig({
  dialect: 'postgresql',
  schema: ['./src/server/database/schema.ts', './src/server/database/selling-schema.ts'],
  out: './src/server/database/migrations',
})
