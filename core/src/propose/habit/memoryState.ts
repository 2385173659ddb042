import { countTexts, type PackedTexts, packTexts, textAt } from '../../text/packedTexts.ts';
import { monthDayOf, weekdayOf } from './features.ts';
import type { Example } from './memory.ts';
import type { SavedWordings, Wordings, WordingsState } from './wordings.ts';

/** A memory as plain data: lists, and tables with a place for each decided line, those of one label together. */
export interface MemoryState {
  readonly wordings: WordingsState;
  readonly ids: PackedTexts;
  /** The places of the ids in their order. */
  readonly idOrder: Int32Array;
  /** The dates as days since 1970. */
  readonly days: Int32Array;
  readonly positions: Int32Array;
  /** In minor units. */
  readonly amounts: Float64Array;
  readonly weights: Float64Array;
  /** The place of each in the lists and wordings that follow. */
  readonly columns: Readonly<Record<ListColumn | 'wording', Int32Array>>;
  readonly lists: Readonly<Record<ListColumn, readonly (string | null)[]>>;
  /** Where the numbers of each line start in `numbers`, which are places in `numberNames`. */
  readonly numberStarts: Int32Array;
  readonly numbers: Int32Array;
  /** In the order of their characters. */
  readonly numberNames: PackedTexts;
}

const listColumns = ['label', 'accountId', 'payeeId', 'taxCodeId', 'bankAccountId'] as const;
type ListColumn = (typeof listColumns)[number];

/** Saves decided lines. @param all those of one label together, in their order */
export function saveExamples(
  all: readonly Example[],
  { state: wordings, placeOf }: SavedWordings,
): MemoryState {
  const listed = Object.fromEntries(
    listColumns.map((column) => [column, listOf(all.map((example) => example[column]))]),
  ) as Record<ListColumn, Listed<string | null>>;
  const numbers = sorted(listOf(all.flatMap((example) => example.numbers)));
  const numberStarts = new Int32Array(all.length + 1);
  for (const [at, example] of all.entries()) {
    numberStarts[at + 1] = (numberStarts[at] ?? 0) + example.numbers.length;
  }
  const { label, accountId, payeeId, taxCodeId, bankAccountId } = listed;
  const ids = all.map(({ id }) => id);
  return {
    wordings,
    ids: packTexts(ids),
    idOrder: Int32Array.from(orderOf(ids)),
    days: Int32Array.from(all, ({ day }) => day),
    positions: Int32Array.from(all, ({ position }) => position),
    amounts: Float64Array.from(all, ({ amount }) => amount),
    weights: Float64Array.from(all, ({ weight }) => weight),
    columns: {
      label: label.places,
      accountId: accountId.places,
      payeeId: payeeId.places,
      taxCodeId: taxCodeId.places,
      bankAccountId: bankAccountId.places,
      wording: Int32Array.from(all, ({ wording }) => placeOf[wording] ?? 0),
    },
    lists: {
      label: label.list,
      accountId: accountId.list,
      payeeId: payeeId.list,
      taxCodeId: taxCodeId.list,
      bankAccountId: bankAccountId.list,
    },
    numberStarts,
    numbers: numbers.places,
    numberNames: packTexts(numbers.list),
  };
}

interface Listed<Value> {
  readonly list: readonly Value[];
  readonly places: Int32Array;
}

/** The different ones of some values, and the place of each among them. */
function listOf<Value>(values: readonly Value[]): Listed<Value> {
  const known = new Map<Value, number>();
  const places = new Int32Array(values.length);
  for (const [at, value] of values.entries()) {
    const place = known.get(value) ?? known.size;
    known.set(value, place);
    places[at] = place;
  }
  return { list: [...known.keys()], places };
}

/** The same with the list in the order of its texts' characters. */
function sorted({ list, places }: Listed<string>): Listed<string> {
  const order = orderOf(list);
  const placeOf = new Int32Array(list.length);
  for (const [place, before] of order.entries()) placeOf[before] = place;
  return {
    list: order.map((before) => list[before] ?? ''),
    places: places.map((before) => placeOf[before] ?? 0),
  };
}

/** The places of texts in the order of their characters. */
function orderOf(texts: readonly string[]): number[] {
  return [...texts.keys()].sort((a, b) => ((texts[a] ?? '') < (texts[b] ?? '') ? -1 : 1));
}

/** The place of a text among others. @param order the places of these, in the order of their characters */
function placeIn(
  texts: PackedTexts,
  text: string,
  order: (place: number) => number,
): number | undefined {
  const count = countTexts(texts);
  let [from, to] = [0, count];
  while (from < to) {
    const middle = (from + to) >> 1;
    if (textAt(texts, order(middle)) < text) from = middle + 1;
    else to = middle;
  }
  if (from === count) return undefined;
  const place = order(from);
  return textAt(texts, place) === text ? place : undefined;
}

/** Saved lines, read one by one as they are needed: most never are. */
export interface SavedExamples {
  readonly labels: readonly string[];
  /** The rows of a label, given by its place: from the first up to before the last. */
  readonly rowsOf: (label: number) => readonly [from: number, to: number];
  readonly read: (row: number) => Example;
  /** The row of a line. */
  readonly rowOf: (id: string) => number | undefined;
  /** The label of a row, by its place. */
  readonly labelOf: (row: number) => number;
  /** The rows of lines that have a number. */
  readonly rowsWith: (number: string) => Int32Array;
  /** The newest few of some rows, the newest last. */
  readonly newestOf: (rows: Int32Array, most: number) => readonly number[];
  /** How long each number is. */
  readonly numberLengths: () => Iterable<number>;
}

const NONE = new Int32Array(0);

/** Reads saved lines. @param wordings those that were saved with them */
export function readExamples(state: MemoryState, wordings: Wordings): SavedExamples {
  const { lists, columns, ids, numberStarts, numbers, numberNames } = state;
  const labels = lists.label.map((label) => label ?? '');
  const starts = startsOf(columns.label, labels.length);
  // Made when it is first asked for.
  let byNumber: { readonly starts: Int32Array; readonly rows: Int32Array } | null = null;

  function numbersOf(row: number): string[] {
    const own: string[] = [];
    const end = numberStarts[row + 1] ?? 0;
    for (let at = numberStarts[row] ?? 0; at < end; at += 1) {
      own.push(textAt(numberNames, numbers[at] ?? 0));
    }
    return own;
  }

  function isLaterRow(a: number, b: number): boolean {
    const [day, other] = [state.days[a] ?? 0, state.days[b] ?? 0];
    if (day !== other) return day > other;
    const [place, beside] = [state.positions[a] ?? 0, state.positions[b] ?? 0];
    return place !== beside ? place > beside : textAt(ids, a) > textAt(ids, b);
  }

  function listNumbers() {
    const from = startsOf(numbers, countTexts(numberNames));
    const all = new Int32Array(numbers.length);
    const next = from.slice();
    for (let row = 0; row < countTexts(ids); row += 1) {
      const end = numberStarts[row + 1] ?? 0;
      for (let at = numberStarts[row] ?? 0; at < end; at += 1) {
        const number = numbers[at] ?? 0;
        all[next[number] ?? 0] = row;
        next[number] = (next[number] ?? 0) + 1;
      }
    }
    return { starts: from, rows: all };
  }

  return {
    labels,
    numberLengths: () =>
      numberNames.starts.subarray(1).map((end, at) => end - (numberNames.starts[at] ?? 0)),
    rowsOf: (label) => [starts[label] ?? 0, starts[label + 1] ?? 0],
    labelOf: (row) => columns.label[row] ?? 0,
    rowOf: (id) => placeIn(ids, id, (at) => state.idOrder[at] ?? 0),
    newestOf(rows, most) {
      const newest: number[] = [];
      for (const row of rows) {
        let at = newest.length;
        while (at > 0 && isLaterRow(newest[at - 1] ?? row, row)) at -= 1;
        newest.splice(at, 0, row);
        if (newest.length > most) newest.shift();
      }
      return newest;
    },
    rowsWith(number) {
      const place = placeIn(numberNames, number, (at) => at);
      if (place === undefined) return NONE;
      byNumber ??= listNumbers();
      return byNumber.rows.subarray(byNumber.starts[place], byNumber.starts[place + 1]);
    },
    read(row) {
      const wording = columns.wording[row] ?? 0;
      const day = state.days[row] ?? 0;
      const amount = state.amounts[row] ?? 0;
      return {
        id: textAt(ids, row),
        label: labels[columns.label[row] ?? 0] ?? '',
        position: state.positions[row] ?? 0,
        accountId: lists.accountId[columns.accountId[row] ?? 0] ?? '',
        payeeId: lists.payeeId[columns.payeeId[row] ?? 0] ?? null,
        taxCodeId: lists.taxCodeId[columns.taxCodeId[row] ?? 0] ?? null,
        weight: state.weights[row] ?? 0,
        amount,
        bankAccountId: lists.bankAccountId[columns.bankAccountId[row] ?? 0] ?? '',
        wording,
        words: wordings.wordsOf(wording),
        numbers: numbersOf(row),
        monthDay: monthDayOf(day),
        weekday: weekdayOf(day),
        day,
        size: sizeOf(amount),
      };
    },
  };
}

/** The natural logarithm of an amount, without its sign. */
export function sizeOf(amount: number): number {
  return Math.log(Math.abs(amount) + 1);
}

/** Where each of `count` groups starts in a table that is sorted by group, and behind the last where it ends. */
function startsOf(groups: Int32Array, count: number): Int32Array {
  const starts = new Int32Array(count + 1);
  for (const group of groups) starts[group + 1] = (starts[group + 1] ?? 0) + 1;
  for (let group = 0; group < count; group += 1) {
    starts[group + 1] = (starts[group + 1] ?? 0) + (starts[group] ?? 0);
  }
  return starts;
}
