import { errors } from '@zubrell/core/errors';
import type { Dice } from '@zubrell/core/testing/dice';
import type { InjectOptions } from 'fastify';
import type { Api } from '../../http/api.ts';
import {
  fittingValue,
  type JsonSchema,
  type Known,
  placesIn,
  replaced,
  valueAt,
} from './schemaValues.ts';

/** Values that no field should be hurt by. */
const NASTY: readonly unknown[] = [
  null,
  true,
  [],
  {},
  '',
  ' ',
  '\0',
  'a\0b',
  '\ud800',
  'a\udc00b',
  '\u202e\ufeff',
  'ﷺ'.repeat(190),
  '😀'.repeat(90),
  'ẞ'.repeat(100),
  'x'.repeat(3_000),
  'x'.repeat(300_000),
  '%_\\',
  "'; drop table lines; --",
  '0000-01-01',
  '1969-12-31',
  '2101-01-01',
  '9999-12-31',
  '2026-02-30',
  '+012026-01-01',
  '00000000-0000-0000-0000-000000000000',
  'eyJ4IjoxfQ',
  0,
  -1,
  0.5,
  2 ** 31,
  -(2 ** 31) - 1,
  2 ** 53 - 1,
  -(2 ** 53),
  1e13,
  1e13 + 1,
  1e300,
  Array.from({ length: 3_000 }, () => 'x'),
];

/** Values that a schema lets through, of each type: what comes after it must not be hurt either. */
const LIKELY: Readonly<Record<string, readonly unknown[]>> = {
  string: ['Clay', 'ﷺ'.repeat(40), 'ẞß ıİ ﬁ', '😀', "%_\\'", '1e9', '-', '﷽'.repeat(30)],
  date: ['1970-01-01', '2100-12-31', '2026-02-28', '2024-02-29'],
  number: [0, 1, -1, 1e13, -1e13, 31, 10_000, 2 ** 31 - 1],
};

/** The same for addresses, where text comes encoded, well or not. */
const NASTY_ENCODED = [
  '',
  '%00',
  '%ED%A0%80',
  '%',
  '%C3',
  '..%2f..%2fetc',
  'x'.repeat(3_000),
  encodeURIComponent('ﷺ'.repeat(150)),
  '%25_%5C',
  '0000-01-01',
  '9999-12-31',
  '2026-02-30',
  '00000000-0000-0000-0000-000000000000',
  '99999999999999999999',
  '-1',
  'bnVsbA',
  // Cursors of ours, but of no list or of another.
  ...[[1], ['2026-03-01', 'x'], [2 ** 40, 'x'], [-1], ['a', 'b', 'c'], { a: 1 }].map((place) =>
    Buffer.from(JSON.stringify(place)).toString('base64url'),
  ),
];

/** Signs out, or never ends: not to be tried. */
const LEFT_OUT = new Set(['DELETE /api/session', 'GET /api/books/{booksId}/events']);

interface Operation {
  readonly parameters?: readonly {
    readonly name: string;
    readonly in: string;
    readonly schema: JsonSchema;
  }[];
  readonly requestBody?: {
    readonly content: Readonly<Record<string, { readonly schema: JsonSchema }>>;
  };
}

/** A request that was answered as it should not be. */
export interface Fault {
  readonly request: string;
  readonly status: number;
  readonly answer: string;
}

/** How to fuzz. */
export interface FuzzOptions {
  readonly known: Known;
  readonly cookie: string;
  readonly die: Dice;
  /** So many nasty values are tried in each place. */
  readonly perPlace: number;
}

/**
 * Sends every route requests that fit but for one field, each field in turn, and keeps what was answered with
 * a fault of the server, or with an error that has no words.
 *
 * @returns the faults, and how many requests were sent and how many of them were taken
 */
export async function fuzzRoutes(
  app: Api,
  options: FuzzOptions,
): Promise<{ readonly faults: Fault[]; readonly sent: number; readonly taken: number }> {
  const faults: Fault[] = [];
  let sent = 0;
  let taken = 0;
  const { paths } = app.swagger() as unknown as {
    readonly paths: Readonly<Record<string, Readonly<Record<string, Operation>>>>;
  };
  for (const [path, operations] of Object.entries(paths)) {
    for (const [method, operation] of Object.entries(operations)) {
      const route = `${method.toUpperCase()} ${path}`;
      if (LEFT_OUT.has(route)) continue;
      for (const request of requestsTo(path, operation, options)) {
        const answer = await app.inject({
          ...request,
          method: method.toUpperCase() as 'GET',
          headers: { ...request.headers, cookie: options.cookie },
        });
        sent += 1;
        if (answer.statusCode < 400) taken += 1;
        else if (!isWorded(answer.statusCode, answer.body)) {
          const body = JSON.stringify(request.payload ?? null).slice(0, 300);
          faults.push({
            request: `${route}: ${request.url?.toString().slice(0, 200)} ${body}`,
            status: answer.statusCode,
            answer: answer.body.slice(0, 200),
          });
        }
      }
    }
  }
  return { faults, sent, taken };
}

/** Whether an answer is an error of the table that is not ours. */
function isWorded(status: number, body: string): boolean {
  if (status >= 500) return false;
  try {
    const { code, title } = JSON.parse(body) as { code?: string; title?: string };
    return code !== undefined && code in errors && (title ?? '') !== '';
  } catch {
    return false;
  }
}

type Request = Pick<InjectOptions, 'url' | 'headers'> & { readonly payload?: object };

/** One request that fits, and many that fit but for one field. */
function* requestsTo(path: string, operation: Operation, options: FuzzOptions): Generator<Request> {
  const { known, die, perPlace } = options;
  const given = operation.parameters ?? [];
  const inPath = given.filter((each) => each.in === 'path').map(({ name }) => name);
  const asked = given.filter((each) => each.in === 'query');
  const schema = operation.requestBody?.content['application/json']?.schema;
  const pathValue = (name: string) => String(known[name] ?? known.anyId);
  const urlOf = (changed: Readonly<Record<string, string>> = {}) => {
    const address = path.replace(
      /\{(\w+)\}/g,
      (_, name: string) => changed[name] ?? pathValue(name),
    );
    const query = asked.map(({ name, schema: of }) => {
      const value = changed[name] ?? encodeURIComponent(String(fittingValue(of, name, known, die)));
      return `${name}=${value}`;
    });
    return query.length === 0 ? address : `${address}?${query.join('&')}`;
  };
  const nasty = <T>(all: readonly T[]) => Array.from({ length: perPlace }, () => die.pick(all));
  const ids = Object.values(known).filter(isId);
  const likely = (value: unknown): readonly unknown[] => {
    if (isId(value)) return ids;
    const isDate = typeof value === 'string' && /^\d{4}-\d\d-\d\d$/.test(value);
    return LIKELY[isDate ? 'date' : typeof value] ?? [null];
  };
  const body = () =>
    schema === undefined ? {} : { payload: fittingValue(schema, '', known, die) as object };

  yield { url: urlOf(), ...body() };
  for (const name of [...inPath, ...asked.map((each) => each.name)]) {
    for (const value of nasty(NASTY_ENCODED)) yield { url: urlOf({ [name]: value }), ...body() };
  }
  if (schema === undefined) return;
  // Branches of unions come by dice, so several bodies are gone through.
  for (let round = 0; round < BODIES; round += 1) {
    const fitting = fittingValue(schema, '', known, die);
    for (const place of placesIn(fitting)) {
      for (const value of [...nasty(NASTY), ...nasty(likely(valueAt(fitting, place)))]) {
        yield jsonRequest(urlOf(), replaced(fitting, place, value));
      }
    }
  }
  yield { url: urlOf(), headers: { 'idempotency-key': 'k'.repeat(3_000) }, ...body() };
}

const BODIES = 3;

function isId(value: unknown): boolean {
  return typeof value === 'string' && /^[\da-f]{8}-/.test(value);
}

/** Sent as text, so that a body may be anything. */
function jsonRequest(url: string, value: unknown): Request {
  const payload = JSON.stringify(value) ?? 'null';
  return {
    url,
    headers: { 'content-type': 'application/json' },
    payload: payload as unknown as object,
  };
}
