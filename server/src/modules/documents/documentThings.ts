import type { DecisionId, PayeeId } from '@zubrell/core/ids';
import { sql } from 'drizzle-orm';
import { z } from 'zod';
import { rowsOf } from '../../db/database.ts';
import { IdRow, idRow } from '../../db/rows.ts';
import { documentsInTheWay, isCreditTie } from '../decisions/documentsInTheWay.ts';
import { setDecisionsLive } from '../decisions/setLineDecisions.ts';
import { DocumentState, isSameDocument, moveDocument } from '../ledger/setDocument.ts';
import { turnedState } from '../steps/putItems.ts';
import { Need, type ThingState } from '../steps/recordStep.ts';
import { isHere, missingByStanding, type ThingHandler } from '../steps/things.ts';

const StandingRow = DocumentState.extend({ id: z.string(), isVoid: z.boolean() });

const standing: ThingHandler['standing'] = async ({ tx, booksId }, ids) => {
  const rows = await rowsOf(
    tx,
    StandingRow,
    sql`select d.id, d.kind, d.side, d.number, d.payee_id as "payeeId", d.date,
          d.due_date as "dueDate", d.amount, d.exchange, d.worth, d.lines, d.note, d.entry_id as "entryId",
          e.is_void as "isVoid"
        from documents d join entries e on e.books_id = d.books_id and e.id = d.entry_id
        where d.books_id = ${booksId} and d.id = any(${sql.param(ids)}::uuid[]) for update of d`,
  );
  return new Map(rows.map(({ id, isVoid, ...state }) => [id, isVoid ? null : { ...state }]));
};

const stateOf = (state: ThingState) => (state === null ? null : DocumentState.parse(state));

const CreditRow = z.object({ id: z.string(), decisionId: idRow<DecisionId>() });

/** Bills, invoices and credit notes. Each of their states has an entry of its own. */
export const documentThing: ThingHandler = {
  table: 'documents',
  standing,
  missing: async (command, ids) => {
    const gone = await missingByStanding('document', standing)(command, ids);
    const { tx, booksId } = command;
    // Credit goes and comes with the pairing that left it.
    const credits = await rowsOf(
      tx,
      CreditRow,
      sql`select d.id, x.decision_id as "decisionId" from documents d
          join entries paid on paid.books_id = d.books_id and paid.id = d.entry_id
          join legs g on g.books_id = d.books_id and g.entry_id = d.entry_id and ${isCreditTie}
          join decision_legs x on x.books_id = g.books_id and x.leg_id = g.id
          where d.books_id = ${booksId} and d.kind = 'credit'
            and d.id = any(${sql.param(gone.map(({ thingId }) => thingId))}::uuid[])`,
    );
    const makers = new Map(credits.map(({ id, decisionId }) => [id, decisionId]));
    return gone.map((need): Need => {
      const decisionId = makers.get(need.thingId);
      return decisionId === undefined ? need : { thing: 'decision', thingId: decisionId };
    });
  },
  inTheWay: async (command, turns, all) => {
    const { tx, booksId } = command;
    const ids = sql.param(turns.map(({ thingId }) => thingId));
    const leaving = all.filter(({ thing }) => thing === 'line').map(({ thingId }) => thingId);
    const settled = await rowsOf(
      tx,
      Need,
      sql`select distinct 'decision' as thing, a.decision_id as "thingId" from allocations a
          where a.books_id = ${booksId} and a.document_id = any(${ids}::uuid[]) and a.is_live
            and not exists (select from decision_lines dl
              where dl.books_id = a.books_id and dl.decision_id = a.decision_id
                and dl.line_id = any(${sql.param(leaving)}::uuid[]))`,
    );
    const coming = turns.flatMap(({ thingId, after }) =>
      isHere(after) ? [{ thingId, state: DocumentState.parse(after) }] : [],
    );
    const same: Need[] = [];
    for (const { state } of coming) {
      const rows = await rowsOf(
        tx,
        IdRow,
        sql`select d.id from documents d
            join entries e on e.books_id = d.books_id and e.id = d.entry_id and not e.is_void
            where d.books_id = ${booksId} and d.id <> all(${ids}::uuid[]) and ${isSameDocument(state)}`,
      );
      same.push(...rows.map(({ id }): Need => ({ thing: 'document', thingId: id })));
    }
    return { taken: [...settled, ...same] };
  },
  put: async (command, turns) => {
    const now = await standing(
      command,
      turns.map(({ thingId }) => thingId),
    );
    for (const turn of turns) {
      const from = stateOf(now.get(turn.thingId) ?? null);
      const to = stateOf(turnedState(now.get(turn.thingId) ?? null, turn));
      await moveDocument(command, turn.thingId, from, to);
      await command.follow.documentsChanged(
        command,
        [from, to].flatMap((state) => state ?? []),
      );
    }
  },
};

const OffsetStandingRow = z.object({ id: z.string(), isLive: z.boolean() });

const offsetStanding: ThingHandler['standing'] = async ({ tx, booksId }, ids) => {
  const these = sql`books_id = ${booksId} and decision_id = any(${sql.param(ids)}::uuid[])`;
  const rows = await rowsOf(
    tx,
    OffsetStandingRow,
    sql`select id, bool_or(is_live) as "isLive" from (
          select decision_id as id, is_live from allocations where ${these}
          union all
          select decision_id, is_live from decision_legs where ${these}) tied
        group by 1`,
  );
  return new Map(rows.map(({ id, isLive }) => [id, { isLive }]));
};

const TouchedRow = z.object({ amount: z.number(), payeeId: idRow<PayeeId>() });

/** Documents settled against each other, or by an entry made by hand: by the decision that did. */
export const offsetThing: ThingHandler = {
  standing: offsetStanding,
  missing: missingByStanding('offset', offsetStanding),
  inTheWay: (command, turns, all) =>
    documentsInTheWay(
      command,
      turns.filter(({ after }) => isHere(after)).map(({ thingId }) => thingId),
      turns.filter(({ after }) => !isHere(after)).map(({ thingId }) => thingId),
      all,
    ),
  put: async (command, turns) => {
    const { tx, booksId } = command;
    const idsOf = (isLive: boolean) =>
      turns.filter(({ after }) => isHere(after) === isLive).map(({ thingId }) => thingId);
    await setDecisionsLive(command, idsOf(false), false);
    await setDecisionsLive(command, idsOf(true), true);
    const touched = await rowsOf(
      tx,
      TouchedRow,
      sql`select d.amount, d.payee_id as "payeeId" from allocations a
          join documents d on d.books_id = a.books_id and d.id = a.document_id
          where a.books_id = ${booksId}
            and a.decision_id = any(${sql.param(turns.map(({ thingId }) => thingId))}::uuid[])`,
    );
    await command.follow.documentsChanged(command, touched);
  },
};
