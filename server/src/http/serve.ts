import type { Endpoint } from '@zubrell/contract/endpoint';
import type { FastifyReply, FastifyRequest } from 'fastify';
import type { z } from 'zod';
import type { Api } from './api.ts';

type Out<Schema> = Schema extends z.ZodType ? z.output<Schema> : unknown;

/** A request as an endpoint's schemas leave it. */
export type RequestTo<Served extends Endpoint> = FastifyRequest<{
  Params: Out<Served['params']>;
  Querystring: Out<Served['query']>;
  Body: Out<Served['body']>;
}>;

/** What an endpoint may answer; one without JSON sees to it by itself. */
type AnswerOf<Served extends Endpoint> = Served['answer'] extends z.ZodType
  ? z.input<Served['answer']>
  : unknown;

/** How an endpoint is served beyond what the contract says. */
export interface Serving {
  /** The most that a body may have, in bytes. */
  readonly bodyLimit?: number;
  readonly rateLimit?: { readonly max: number; readonly timeWindow: string };
}

/** Serves an endpoint of the contract: who may use it, what comes in and what goes out are as it says. */
export function serve<const Served extends Endpoint>(
  api: Api,
  { method, path, access, params, query, body, answer }: Served,
  handler: (
    request: RequestTo<Served>,
    reply: FastifyReply,
  ) => AnswerOf<Served> | Promise<AnswerOf<Served>>,
  { bodyLimit, rateLimit }: Serving = {},
): void {
  api.route({
    method,
    url: `/api${path}`,
    config: { access, ...(rateLimit && { rateLimit }) },
    ...(bodyLimit !== undefined && { bodyLimit }),
    schema: {
      ...(params && { params }),
      ...(query && { querystring: query }),
      ...(body && { body }),
      ...(answer && { response: { 200: answer } }),
    },
    handler: (request, reply) => handler(request as RequestTo<Served>, reply),
  });
}
