import { isBehindTls } from '@/server/doors/outer-door'
import { ownAddress, passkeyHost } from '@/server/doors/own-address'

afterEach(() => delete process.env['STEPPE_ADDRESS'])

test.each([
  [undefined, 'http://127.0.0.1:4000', 'localhost', false],
  ['', 'http://127.0.0.1:4000', 'localhost', false],
  ['http://127.0.0.1:4100', 'http://127.0.0.1:4100', 'localhost', false],
  ['http://[::1]:4000', 'http://[::1]:4000', 'localhost', false],
  [
    'https://prices.clovertarn.example/',
    'https://prices.clovertarn.example',
    'prices.clovertarn.example',
    true,
  ],
])('STEPPE_ADDRESS=%s', (setting, address, host, isSecure) => {
  if (setting !== undefined) process.env['STEPPE_ADDRESS'] = setting
  expect(ownAddress()).toBe(address)
  // A passkey cannot be kept for an IP address.
  expect(passkeyHost()).toBe(host)
  expect(isBehindTls()).toBe(isSecure)
})
