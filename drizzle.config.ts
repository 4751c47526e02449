import { defineConfig } from 'drizzle-kit'

export default defineConfig({
  dialect: 'postgresql',
  schema: [
    './src/server/database/schema.ts',
    './src/server/database/selling-schema.ts',
    './src/server/database/staff-schema.ts',
    './src/server/database/door-schema.ts',
  ],
  out: './src/server/database/migrations',
})
