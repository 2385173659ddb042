import type { FastifyRequest } from 'fastify';

/** Where a request comes from, and what it is made with. */
export interface OpenedFrom {
  readonly address: string;
  readonly browser: string;
}

/** How much is kept of what a browser says of itself. */
const LONGEST_NAME = 200;

/** Where a request comes from, as far as it is kept. */
export function openedFrom({ ip, headers }: FastifyRequest): OpenedFrom {
  return { address: ip, browser: (headers['user-agent'] ?? '').slice(0, LONGEST_NAME) };
}
