import { groupBy } from '@zubrell/core/groupBy';
import { stepThings } from '@zubrell/core/steps/stepThings';
import { sql } from 'drizzle-orm';
import { execute, rowsOf, together } from '../../db/database.ts';
import type { BooksCommand } from './booksCommand.ts';
import { Need, type StepItem, type ThingState } from './recordStep.ts';
import { type InTheWay, isHere, type Turn } from './things.ts';

/**
 * Puts things from `before` to `after`. What goes, goes first, and what rests on something before that; then comes
 * what comes, in the other order. Books that are opened are so before all of it, and closed after it: what is put in a
 * closed period would count on a later day. Only what an item changed is put: what else became of a thing stays.
 *
 * @throws {ZubrellError} where the database holds that it can't be; nothing was done then
 */
export async function putItems(command: BooksCommand, items: readonly StepItem[]): Promise<void> {
  const byThing = groupBy(items, ({ thing }) => thing);
  const put = async (thing: (typeof stepThings)[number], isGoing: boolean) => {
    const turns = (byThing.get(thing) ?? []).filter(
      ({ before, after }) => (isHere(before) && !isHere(after)) === isGoing,
    );
    if (turns.length > 0) await command.things[thing].put(command, turns);
  };
  const [settings] = byThing.get('books') ?? [];
  const isOpening = settings !== undefined && lockOf(settings.after) < lockOf(settings.before);
  const others = stepThings.filter((thing) => thing !== 'books');
  if (isOpening) await put('books', false);
  for (const thing of [...others].reverse()) await put(thing, true);
  for (const thing of others) await put(thing, false);
  if (!isOpening) await put('books', false);
  await together(
    execute(command.tx, sql`set constraints all immediate`),
    execute(command.tx, sql`set constraints all deferred`),
  );
}

/** Up to which day books are locked; less than any day where they aren't. */
function lockOf(state: ThingState): string {
  return typeof state?.lockDate === 'string' ? state.lockDate : '';
}

/** What stands otherwise than items say it does before. */
export async function standingElsewhere(
  command: BooksCommand,
  items: readonly StepItem[],
): Promise<Need[]> {
  const found: Need[] = [];
  for (const [thing, turns] of groupBy(items, (item) => item.thing)) {
    const standing = await command.things[thing].standing(
      command,
      turns.map(({ thingId }) => thingId),
    );
    for (const turn of turns) {
      if (!standsAs(standing.get(turn.thingId) ?? null, turn)) {
        found.push({ thing, thingId: turn.thingId });
      }
    }
  }
  return found;
}

/** Whether a thing stands as a turn says, as far as that changes it. */
function standsAs(now: ThingState, { before, after }: Turn): boolean {
  if (isHere(now) !== isHere(before)) return false;
  if (now === null || before === null || !isHere(before)) return true;
  const keys = after === null ? Object.keys(before) : changedKeys(before, after);
  return keys.every((key) => !(key in now) || isEqual(now[key], before[key]));
}

/** The keys in which two states differ. */
function changedKeys(before: NonNullable<ThingState>, after: NonNullable<ThingState>): string[] {
  return Object.keys(after).filter((key) => !isEqual(before[key], after[key]));
}

/** A state with what a turn changes, changed. Whatever else became of the thing stays as it is. */
export function turnedState(
  now: ThingState,
  { before, after }: Turn,
): NonNullable<ThingState> | null {
  if (now === null || before === null || after === null) return after;
  const changed = changedKeys(before, after).map((key) => [key, after[key]] as const);
  return { ...now, ...Object.fromEntries(changed) };
}

/** Whether two values are the same as JSON, whatever the order of their keys. */
function isEqual(a: unknown, b: unknown): boolean {
  if (a === b || (a ?? null) === (b ?? null)) return true;
  if (typeof a !== 'object' || typeof b !== 'object' || a === null || b === null) return false;
  const [left, right] = [Object.entries(a), new Map(Object.entries(b))];
  return left.length === right.size && left.every(([key, value]) => isEqual(value, right.get(key)));
}

/** What keeps things of several kinds from being put from `before` to `after`. */
export async function inTheWayOf(
  command: BooksCommand,
  items: readonly StepItem[],
): Promise<Required<InTheWay>> {
  const taken: Need[] = [];
  const absent: Need[] = await needsGone(command, items);
  for (const [thing, turns] of groupBy(items, (item) => item.thing)) {
    const found = await command.things[thing].inTheWay?.(command, turns, items);
    taken.push(...(found?.taken ?? []));
    absent.push(...(found?.absent ?? []));
  }
  return { taken, absent };
}

/** What the steps that made what comes back need, and is not there. */
async function needsGone(command: BooksCommand, items: readonly StepItem[]): Promise<Need[]> {
  const { tx, booksId } = command;
  const coming = items.filter(({ before, after }) => isHere(after) && !isHere(before));
  const idsOf = (thing: string) => coming.filter((item) => item.thing === thing);
  const decided = [
    ...idsOf('line').flatMap(({ after }) => after?.decisionId ?? []),
    ...idsOf('offset').map(({ thingId }) => thingId),
  ];
  const rows = [
    { table: 'decisions', ids: decided },
    { table: 'entries', ids: idsOf('entry').map(({ thingId }) => thingId) },
    { table: 'documents', ids: idsOf('document').map(({ thingId }) => thingId) },
  ].filter(({ ids }) => ids.length > 0);
  if (rows.length === 0) return [];
  const makers = rows.map(
    ({ table, ids }) => sql`select step from ${sql.identifier(table)}
      where books_id = ${booksId} and id = any(${sql.param(ids)}::uuid[])`,
  );
  const needs = await rowsOf(
    tx,
    Need,
    sql`select distinct thing, thing_id as "thingId" from step_needs
        where books_id = ${booksId} and step_no in (${sql.join(makers, sql` union `)})`,
  );
  return missingOf(
    command,
    needs.filter(({ thingId }) => !coming.some((item) => item.thingId === thingId)),
  );
}

/** Which of these are not there, each as what would have to come back for it. */
export async function missingOf(command: BooksCommand, needs: readonly Need[]): Promise<Need[]> {
  const missing: Need[] = [];
  for (const [thing, wanted] of groupBy(needs, (need) => need.thing)) {
    const ids = wanted.map(({ thingId }) => thingId);
    missing.push(...(await command.things[thing].missing(command, ids)));
  }
  return missing;
}
