import 'server-only'

import { sharedMemory } from '@/core/maps/shared-memory'
import { collectDefaultMetrics, Gauge, Histogram, Registry } from 'prom-client'
import type { Steppe } from '../engine/steppe'

/** From a millisecond to ten seconds. */
const SECONDS = [0.001, 0.003, 0.01, 0.03, 0.1, 0.3, 1, 3, 10]

const measures = sharedMemory('measures', () => {
  const registry = new Registry()
  registry.setDefaultLabels({ process: process.env['STEPPE_PROCESS'] ?? '1' })
  collectDefaultMetrics({ register: registry })
  return {
    registry,
    requests: new Histogram({
      name: 'steppe_request_seconds',
      help: 'How long what was asked for took, by what it was and how it ended',
      labelNames: ['kind', 'side', 'ended'],
      buckets: SECONDS,
      registers: [registry],
    }),
    changeSet: new Gauge({
      name: 'steppe_change_set',
      help: 'The last change set this process knows',
      registers: [registry],
    }),
    variants: new Gauge({
      name: 'steppe_variants',
      help: 'Variants in the store',
      registers: [registry],
    }),
  }
})

/** What is asked for over the network. */
export type RequestKind = 'page' | 'action' | 'route'
/** `led` elsewhere, or turned away; `failed` is nobody's intention. */
export type Ended = 'answered' | 'led' | 'failed'

/** Keeps how long a request took (seconds). */
export function noteRequest(kind: RequestKind, side: string, ended: Ended, seconds: number): void {
  measures.requests.observe({ kind, side, ended }, seconds)
}

/** Everything measured, in the text format of Prometheus (version 0.0.4). */
export async function measuresText({ lastChangeSet, prepared }: Steppe): Promise<string> {
  measures.changeSet.set(lastChangeSet)
  measures.variants.set(prepared?.store.variant.size ?? 0)
  return measures.registry.metrics()
}
