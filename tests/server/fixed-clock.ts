// The demo has prices, proofs and certificates with an end: on a day after it, tests of them would tell something else.
process.env['STEPPE_CLOCK'] = '2026-11-25T10:00:00Z'
// Nobody signs in to a test, but those of signing in.
process.env['STEPPE_SIGN_IN'] = 'off'
