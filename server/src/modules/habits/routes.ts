import { BooksParams, Id, StepDone } from '@zubrell/contract/common';
import { CodingRecord, Evidence, Habits, MarkHabit } from '@zubrell/contract/habits';
import type { Api } from '../../app.ts';
import { query, runCommand } from '../../http/command.ts';
import type { Services } from '../../services.ts';
import { markHabit, unmarkHabit } from './markHabit.ts';
import { codingRecord, evidenceOf, habitList } from './queries.ts';

/** Habits with their evidence and records; blocking and forgetting them. */
export function habitRoutes(api: Api, services: Services): void {
  const read = { access: 'reviewer' } as const;
  const change = { access: 'bookkeeper' } as const;

  api.get(
    '/api/books/:booksId/habits',
    { config: read, schema: { params: BooksParams, response: { 200: Habits } } },
    (request) => query(services, request, habitList),
  );

  api.get(
    '/api/books/:booksId/lines/:lineId/evidence',
    {
      config: read,
      schema: { params: BooksParams.extend({ lineId: Id }), response: { 200: Evidence } },
    },
    (request) =>
      query(services, request, (tx, booksId) => evidenceOf(tx, booksId, request.params.lineId)),
  );

  api.get(
    '/api/books/:booksId/coding-record',
    { config: read, schema: { params: BooksParams, response: { 200: CodingRecord } } },
    (request) => query(services, request, codingRecord),
  );

  api.post(
    '/api/books/:booksId/habits/marks',
    {
      config: change,
      schema: { params: BooksParams, body: MarkHabit, response: { 200: StepDone } },
    },
    (request) => runCommand(services, request, (command) => markHabit(command, request.body)),
  );

  api.post(
    '/api/books/:booksId/habits/marks/:markId/end',
    {
      config: change,
      schema: { params: BooksParams.extend({ markId: Id }), response: { 200: StepDone } },
    },
    (request) =>
      runCommand(services, request, (command) => unmarkHabit(command, request.params.markId)),
  );
}
