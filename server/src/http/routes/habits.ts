import { habitEndpoints } from '@zubrell/contract/endpoints/habits';
import { codingRecord } from '../../modules/habits/codingRecord.ts';
import { evidenceOf } from '../../modules/habits/evidenceOf.ts';
import { habitList } from '../../modules/habits/habitList.ts';
import { markHabit, unmarkHabit } from '../../modules/habits/markHabit.ts';
import type { Services } from '../../services.ts';
import type { Api } from '../api.ts';
import { query, runCommand } from '../command.ts';
import { serve } from '../serve.ts';

/** Habits with their evidence and records; blocking and forgetting them. */
export function habitRoutes(api: Api, services: Services): void {
  serve(api, habitEndpoints.habits, (request) =>
    query(services, request, (tx, booksId) => habitList(tx, booksId, request.query)),
  );

  serve(api, habitEndpoints.evidence, (request) =>
    query(services, request, (tx, booksId) => evidenceOf(tx, booksId, request.params.lineId)),
  );

  serve(api, habitEndpoints.codingRecord, (request) => query(services, request, codingRecord));

  serve(api, habitEndpoints.markHabit, (request) =>
    runCommand(services, request, (command) => markHabit(command, request.body)),
  );

  serve(api, habitEndpoints.unmarkHabit, (request) =>
    runCommand(services, request, (command) => unmarkHabit(command, request.params.markId)),
  );
}
