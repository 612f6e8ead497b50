import type { EventStream } from 'h3'

/** Streams of events that are open: a server that ends closes them, or it would wait for pages that go on listening. */
export const untilEnd = new Set<EventStream>()
