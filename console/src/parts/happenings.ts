import type { Happening } from '../api'

/** What webhooks can be told of, as people say it. */
export const happenings: Record<Happening, string> = {
  'document.issued': 'Document issued',
  'document.void': 'Document made void',
  'delivery.done': 'Delivery arrived',
  'delivery.failed': 'Delivery failed for good',
  'batch.ended': 'Batch ended',
}

/** What a message tells, as people say it. */
export const told = (event = '') => happenings[event as Happening] ?? 'Test'
