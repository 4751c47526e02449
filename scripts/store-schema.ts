// `npm run schema`: writes docs/store-document.schema.json from the schemas records are checked with.
import { writeFileSync } from 'node:fs'
import { documentSchema } from '../src/server/exchange/document-schema'

writeFileSync('docs/store-document.schema.json', `${JSON.stringify(documentSchema(), null, 2)}\n`)
