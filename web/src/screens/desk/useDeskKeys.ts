import type { RefObject } from 'react';
import { useHotkeys } from 'react-hotkeys-hook';
import { useUses } from '../../app/codingChoices.ts';
import { useAppDispatch } from '../../app/store.ts';
import { useBooks } from '../../app/useBooks.ts';
import { useUndo } from '../../app/useUndo.tsx';
import type { DeskLane } from './deskScope.ts';
import { dialogOpened, excludeAsked, fieldOpened, splitStarted } from './deskSlice.ts';
import { isCovered } from './isCovered.ts';
import { alternativesOf, type DeskRow, stackId } from './rows.ts';
import { endSplit, startSplit } from './splitting/split.ts';
import { useDeskActions } from './useDeskActions.ts';
import { useDeskScope } from './useDeskScope.ts';
import { useMakeRule } from './useMakeRule.ts';
import { useOpenPairing } from './useOpenPairing.ts';
import { withUsual } from './withUsual.ts';

interface DeskKeys {
  readonly rows: readonly DeskRow[];
  readonly index: number;
  readonly row: DeskRow | null;
  /** The ticked lines, which the coding keys are for while there are any. */
  readonly ticked: DeskRow | null;
  readonly move: (to: number) => void;
  readonly open: (stack: string | null) => void;
  readonly list: RefObject<HTMLElement | null>;
  readonly focusList: () => void;
}

const LANE_KEYS: Readonly<Record<string, DeskLane>> = {
  1: 'ready',
  2: 'check',
  3: 'blank',
  4: 'asked',
  5: 'decided',
};

/** Buttons and links keep their own Enter. */
function isOnButton({ target }: KeyboardEvent): boolean {
  return target instanceof Element && target.closest('button, a') !== null;
}

/** The Desk's keys, while its list has the focus; elsewhere a letter is a letter. */
export function useDeskKeys(keys: DeskKeys): void {
  const { rows, index, row, ticked, move, open, list, focusList } = keys;
  const { post, edit, codingOf, tick } = useDeskActions();
  const { change } = useDeskScope();
  const books = useBooks();
  const { isHidden } = books;
  const uses = useUses();
  const dispatch = useAppDispatch();
  const makeRule = useMakeRule();
  const openPairing = useOpenPairing();
  const { undo, redo } = useUndo();
  const isElsewhere = ({ target }: KeyboardEvent) =>
    !(target instanceof Node && list.current?.contains(target)) || isCovered();
  const options = { ignoreEventWhen: isElsewhere, preventDefault: true };
  const enter = {
    ignoreEventWhen: (event: KeyboardEvent) => isElsewhere(event) || isOnButton(event),
    preventDefault: true,
  };
  /** A key that is held down posts once, not stack after stack. */
  const enterOnce = {
    ...enter,
    ignoreEventWhen: (event: KeyboardEvent) => event.repeat || enter.ignoreEventWhen(event),
  };
  const isOpenLine = row?.kind === 'line' ? row.line.decision === null : row !== null;

  /** The head of the stack that the current row belongs to. */
  function headIndex(): number {
    return rows.findLastIndex((each, at) => at <= index && each.kind === 'stack');
  }

  async function postRow(wanted: DeskRow | null | undefined): Promise<void> {
    if (!wanted || !isOpenLine) return;
    if (await post(wanted)) focusList();
  }

  useHotkeys('down, j', () => move(index + 1), options);
  useHotkeys('up, k', () => move(index - 1), options);
  useHotkeys('home', () => move(0), options);
  useHotkeys('end', () => move(rows.length - 1), options);
  useHotkeys('pagedown', () => move(index + 12), options);
  useHotkeys('pageup', () => move(index - 12), options);
  useHotkeys('right', () => row?.kind === 'stack' && open(stackId(row.stack)), options);
  useHotkeys(
    'left',
    () => {
      move(headIndex());
      open(null);
    },
    options,
  );
  /** Puts the next of the usual accounts into the current row, with the tax code that is usual there. */
  function nextAlternative(): void {
    if (row?.kind !== 'stack' && row?.kind !== 'line') return;
    const { proposal } = row.kind === 'stack' ? row.stack : row.line;
    const accounts = alternativesOf(proposal);
    const coding = codingOf(row);
    const at = accounts.indexOf(coding.accountId ?? '');
    const next = accounts[(at + 1) % accounts.length];
    if (next === undefined) return;
    const untaxed = { ...coding, accountId: next, taxCodeId: null, tax: null };
    void edit(row, withUsual(untaxed, uses, books));
  }

  async function postOnce(): Promise<void> {
    const wanted = ticked ?? row;
    if (wanted && isOpenLine && (await post(wanted, true))) focusList();
  }
  useHotkeys('o', () => void postOnce(), options);
  useHotkeys('r', () => row && makeRule(row), options);
  useHotkeys('enter', () => void postRow(ticked ?? row), enterOnce);
  useHotkeys('shift+enter', () => void postRow(rows[headIndex()] ?? row), enterOnce);
  useHotkeys('p', () => isOpenLine && dispatch(fieldOpened('payeeId')), options);
  useHotkeys('a', () => isOpenLine && dispatch(fieldOpened('accountId')), options);
  const hasTax = isOpenLine && !isHidden('taxCodeId');
  useHotkeys('t', () => hasTax && dispatch(fieldOpened('taxCodeId')), options);
  useHotkeys('n', nextAlternative, options);
  useHotkeys(
    's',
    () => {
      if ((row?.kind !== 'line' && row?.kind !== 'stack') || !isOpenLine) return;
      const coding = codingOf(row);
      void edit(row, coding.parts === null ? startSplit(coding) : endSplit(coding));
      if (coding.parts === null) dispatch(splitStarted(row.id));
    },
    options,
  );
  useHotkeys('space', () => row && void tick(row), enter);
  useHotkeys('q', () => isOpenLine && dispatch(dialogOpened('ask')), options);
  useHotkeys('w', () => dispatch(dialogOpened('sweep')), options);
  useHotkeys('x', () => isOpenLine && dispatch(excludeAsked(true)), options);
  useHotkeys('z', () => void undo(), options);
  useHotkeys('shift+z', () => void redo(), options);
  // Signs lie elsewhere on each keyboard, so that what they are typed as counts.
  const signs: Readonly<Record<string, () => void>> = {
    '=': () => openPairing(ticked ?? row),
    '?': () => dispatch(dialogOpened('keys')),
    '/': () => document.getElementById('desk-search')?.focus(),
  };
  useHotkeys('*', ({ key }) => signs[key]?.(), {
    ignoreEventWhen: (event) => isElsewhere(event) || !(event.key in signs),
    preventDefault: true,
  });
  useHotkeys(
    Object.keys(LANE_KEYS),
    ({ key }) => change({ lane: LANE_KEYS[key] ?? 'ready' }),
    options,
  );
}
