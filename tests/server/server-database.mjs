// Makes, copies or drops a database of the server the tests run on, for tests that cannot wait: node server-database.mjs create NAME [FROM] | drop NAME
import pg from 'pg'

const [act, name, from] = process.argv.slice(2)
const client = new pg.Client({ connectionString: process.env.STEPPE_TEST_SERVER })
await client.connect()
if (act === 'create') await client.query(`create database "${name}" ${from ? `template "${from}"` : ''}`)
else await client.query(`drop database if exists "${name}" with (force)`)
await client.end()
