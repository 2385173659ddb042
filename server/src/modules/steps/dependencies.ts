import { stepThings } from '@zubrell/core/steps/stepThings';
import { type SQL, sql } from 'drizzle-orm';
import { z } from 'zod';
import { rowsOf } from '../../db/database.ts';
import type { BooksCommand } from './booksCommand.ts';
import { standingElsewhere } from './putItems.ts';
import { Need, StepItem } from './recordStep.ts';
import { BaseStep, baseStepColumns, isBaseStep, isUndoneStep } from './stepState.ts';
import { isHere } from './things.ts';

/** Whether an item's state says that its thing is there: {@link isHere} in SQL. */
const isHereSql = (state: SQL): SQL => sql`(
  ${state} is not null and coalesce(${state} ->> 'isVoid', 'false') = 'false'
  and coalesce(${state} ->> 'isHere', 'true') = 'true'
  and coalesce(${state} ->> 'isLive', 'true') = 'true'
  and coalesce(${state} ->> 'state', '') <> 'withdrawn'
  and coalesce(${state} -> 'decisionId', 'true') <> 'null')`;

/** Whether two items, `i` and `j`, of one thing changed the same of it. */
const isSameChange = sql`(
  i.before is null or i.after is null or j.before is null or j.after is null or exists (
    select from jsonb_each(i.before) was
    where i.after -> was.key is distinct from was.value
      and j.before -> was.key is distinct from j.after -> was.key))`;

/** The items of a step, in the order in which it made them. */
export function itemsOfStep({ tx, booksId }: BooksCommand, no: number): Promise<StepItem[]> {
  return rowsOf(
    tx,
    StepItem,
    sql`select thing, thing_id as "thingId", before, after from step_items
        where books_id = ${booksId} and step_no = ${no} order by position`,
  );
}

/** What a step needs that it did not touch itself. */
export function needsOfStep({ tx, booksId }: BooksCommand, no: number): Promise<Need[]> {
  return rowsOf(
    tx,
    Need,
    sql`select thing, thing_id as "thingId" from step_needs
        where books_id = ${booksId} and step_no = ${no}`,
  );
}

/** A step in force that rests on another. */
const DependentStep = BaseStep.extend({
  /** It touched the same things, and does not only need what the other made. */
  isTouching: z.boolean(),
});
type DependentStep = z.infer<typeof DependentStep>;

/**
 * The steps in force that rest on a step: they came later and touched the same, or need what it made for something
 * that still stands. The newest first.
 */
export async function dependentSteps(
  command: BooksCommand,
  base: BaseStep,
  items: readonly StepItem[],
): Promise<BaseStep[]> {
  const found = await candidates(command, base, items);
  const resting: BaseStep[] = [];
  for (const step of found) {
    if (step.isTouching || (await hasEffect(command, step))) resting.push(step);
  }
  return resting;
}

/** Whether anything that a step made or changed still stands as it left it. */
async function hasEffect(command: BooksCommand, { no }: BaseStep): Promise<boolean> {
  const items = (await itemsOfStep(command, no)).filter(({ after }) => isHere(after));
  const elsewhere = await standingElsewhere(
    command,
    items.map((item) => ({ ...item, before: item.after })),
  );
  return elsewhere.length < items.length;
}

function candidates(
  { tx, booksId, things }: BooksCommand,
  base: BaseStep,
  items: readonly StepItem[],
): Promise<DependentStep[]> {
  const made = items.filter(({ before, after }) => isHere(after) && !isHere(before));
  const idsOf = (thing: string) =>
    made.filter((item) => item.thing === thing).map(({ thingId }) => thingId);
  const ofTables = (['entry', 'document', 'decision'] as const).map((thing) => {
    const { table } = things[thing];
    return table === undefined
      ? sql`select null, null::uuid where false`
      : sql`select ${thing}, id from ${sql.identifier(table)}
            where books_id = ${booksId} and step = ${base.no}`;
  });
  const ofLines = stepThings.flatMap((thing) => {
    const ids = idsOf(thing);
    const lines = ids.length === 0 ? undefined : things[thing].linesOf?.(booksId, ids);
    return lines ? [sql`select 'lineHere', id from (${lines}) going`] : [];
  });
  const union = sql` union all `;
  return rowsOf(
    tx,
    DependentStep,
    sql`with made (thing, thing_id) as (
          select i.thing, i.thing_id from step_items i
          where i.books_id = ${booksId} and i.step_no = ${base.no} and i.thing <> 'lineHere'
            and ${isHereSql(sql`i.after`)} and not ${isHereSql(sql`i.before`)}
          union all ${sql.join([...ofTables, ...ofLines], union)}),
        found as (
          select j.step_no as no, true as is_touching from step_items i
          join step_items j on j.books_id = i.books_id and j.thing_id = i.thing_id
            and j.thing = i.thing and j.step_no <> i.step_no and ${isSameChange}
          where i.books_id = ${booksId} and i.step_no = ${base.no}
          union
          select n.step_no, false from made m
          join step_needs n on n.books_id = ${booksId} and n.thing_id = m.thing_id and n.thing = m.thing
          union
          select j.step_no, true from made m
          join step_items j on j.books_id = ${booksId} and j.thing_id = m.thing_id
            and j.thing in ('line', 'twice')
          where m.thing = 'lineHere')
        select * from (
          select ${baseStepColumns}, found.is_touching as "isTouching"
          from (select no, bool_or(is_touching) as is_touching from found group by no) found
          join steps s on s.books_id = ${booksId} and s.no = found.no
          where s.no <> ${base.no} and ${isBaseStep} and not ${isUndoneStep}) later
        where since > ${base.since}
        order by since desc`,
  );
}

/** The steps in force that put things where they are, each the newest for one of them. */
export async function stepsBehind(
  command: BooksCommand,
  wanted: readonly Need[],
): Promise<BaseStep[]> {
  return withSources(command, wanted, sql`not ${isUndoneStep} and ${isHereSql(sql`i.after`)}`);
}

/**
 * Why things are not there: steps that made them and were taken back, and steps in force that took them away.
 */
export async function stepsMissing(
  command: BooksCommand,
  absent: readonly Need[],
): Promise<{ readonly undone: readonly BaseStep[]; readonly later: readonly BaseStep[] }> {
  const makers = await withSources(
    command,
    absent,
    sql`${isHereSql(sql`i.after`)} and not ${isHereSql(sql`i.before`)}`,
  );
  const undone = makers.filter((step) => step.isUndone);
  const later = await removers(command, absent);
  return { undone, later };
}

/** Steps in force that took things away, or left decisions. */
function removers(
  { tx, booksId, things }: BooksCommand,
  absent: readonly Need[],
): Promise<readonly BaseStep[]> {
  if (absent.length === 0) return Promise.resolve([]);
  const { thing, id } = paramsOf(absent);
  return rowsOf(
    tx,
    BaseStep,
    sql`select distinct on (s.no) ${baseStepColumns}
        from unnest(${thing}::text[], ${id}::uuid[]) w (thing, id)
        join step_items i on i.books_id = ${booksId} and (
          i.thing_id = w.id and i.thing = w.thing and not ${isHereSql(sql`i.after`)}
          or w.thing = 'decision' and i.thing = 'line' and i.before ->> 'decisionId' = w.id::text
            and i.thing_id in (${things.decision.linesOf(booksId, sql`w.id`)}))
        join steps s on s.books_id = i.books_id and s.no = i.step_no
        where ${isBaseStep} and not ${isUndoneStep}`,
  );
}

function paramsOf(wanted: readonly Need[]) {
  return {
    thing: sql.param(wanted.map(({ thing }) => thing)),
    id: sql.param(wanted.map(({ thingId }) => thingId)),
  };
}

/** For each thing the newest base step that has it among its items or, without one, the one that made its row. */
async function withSources(
  { tx, booksId, things }: BooksCommand,
  wanted: readonly Need[],
  condition: SQL,
): Promise<BaseStep[]> {
  if (wanted.length === 0) return [];
  const { thing, id } = paramsOf(wanted);
  const ofTables = (['entry', 'document', 'decision'] as const).flatMap((name) => {
    const { table } = things[name];
    return table === undefined
      ? []
      : [
          sql`select step from ${sql.identifier(table)} made
              where w.thing = ${name} and made.books_id = ${booksId} and made.id = w.id`,
        ];
  });
  const rows = await rowsOf(
    tx,
    BaseStep,
    sql`select distinct on (s.no) ${baseStepColumns}
        from unnest(${thing}::text[], ${id}::uuid[]) w (thing, id)
        cross join lateral (
          select coalesce(
            (select s.no from step_items i
              join steps s on s.books_id = i.books_id and s.no = i.step_no
              where i.books_id = ${booksId} and i.thing_id = w.id and i.thing = w.thing
                and ${isBaseStep} and ${condition}
              order by s.no desc limit 1),
            (${sql.join(ofTables, sql` union all `)} limit 1)) as no) source
        join steps s on s.books_id = ${booksId} and s.no = source.no`,
  );
  return rows;
}

/** The steps, done or undone, that touched things after a step did, and those undone before it that left them so. */
export function stepsTouching(
  { tx, booksId }: BooksCommand,
  base: BaseStep,
  wanted: readonly Need[],
): Promise<BaseStep[]> {
  if (wanted.length === 0) return Promise.resolve([]);
  const { thing, id } = paramsOf(wanted);
  return rowsOf(
    tx,
    BaseStep,
    sql`select * from (
          select distinct on (s.no) ${baseStepColumns}
          from unnest(${thing}::text[], ${id}::uuid[]) w (thing, id)
          join step_items i on i.books_id = ${booksId} and i.thing_id = w.id and i.thing = w.thing
          join steps s on s.books_id = i.books_id and s.no = i.step_no
          where s.no <> ${base.no} and ${isBaseStep}) touching
        where case when "isUndone" then no < ${base.no} else since > ${base.since} end`,
  );
}
