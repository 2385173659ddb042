import { fail } from '@zubrell/core/errors';
import { sql } from 'drizzle-orm';
import { rowsOf } from '../../db/database.ts';
import { turnedState } from '../steps/putItems.ts';
import { Need } from '../steps/recordStep.ts';
import { isHere, missingByStanding, type ThingHandler } from '../steps/things.ts';
import { RuleState, ruleRows, stateOf } from './ruleRows.ts';
import { setRules } from './setRules.ts';

const StateOrNone = RuleState.nullable();

const standing: ThingHandler['standing'] = async ({ tx, booksId }) =>
  new Map((await ruleRows(tx, booksId)).map((row) => [row.id, { ...stateOf(row) }]));

/** Written rules. */
export const ruleThing: ThingHandler = {
  standing,
  missing: missingByStanding('rule', standing),
  inTheWay: async ({ tx, booksId }, turns) => {
    const coming = turns.filter(({ after }) => isHere(after));
    const bodies = sql.param(coming.map(({ after }) => JSON.stringify(after)));
    const hidden = (thing: string, table: string) => sql`
      select ${thing} as thing, t.id as "thingId" from ${sql.identifier(table)} t, unnest(${bodies}::text[]) said
      where t.books_id = ${booksId} and not t.is_here and strpos(said, t.id::text) > 0`;
    const absent = await rowsOf(
      tx,
      Need,
      sql`${hidden('account', 'accounts')} union ${hidden('payee', 'payees')}
          union ${hidden('costObject', 'cost_objects')} union ${hidden('bankAccount', 'bank_accounts')}`,
    );
    return { taken: [], absent };
  },
  put: async (command, turns) => {
    const now = await standing(
      command,
      turns.map(({ thingId }) => thingId),
    );
    const changes = turns.map((turn) => ({
      thing: 'rule' as const,
      thingId: turn.thingId,
      before: StateOrNone.parse(now.get(turn.thingId) ?? null),
      after: StateOrNone.parse(turnedState(now.get(turn.thingId) ?? null, turn)),
    }));
    if ((await setRules(command, changes)) === null) fail('INTERNAL');
  },
};
