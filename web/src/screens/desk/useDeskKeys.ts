import { useHotkeys } from 'react-hotkeys-hook';
import { useUses } from '../../app/codingChoices.ts';
import { useAppDispatch } from '../../app/store.ts';
import { useBooks } from '../../app/useBooks.ts';
import type { DeskLane } from './deskScope.ts';
import { dialogOpened, excludeAsked, fieldOpened } from './deskSlice.ts';
import { alternativesOf, type DeskRow, stackId } from './rows.ts';
import { endSplit, startSplit } from './split.ts';
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
  readonly focusList: () => void;
}

const LANE_KEYS: Readonly<Record<string, DeskLane>> = {
  1: 'ready',
  2: 'check',
  3: 'blank',
  4: 'asked',
  5: 'decided',
};

/** An open dialog or menu has all keys to itself. */
function isCovered(): boolean {
  return document.querySelector('[role="dialog"], .dropdown-menu.show') !== null;
}

/** Buttons and links keep their own Enter. */
function isOnButton({ target }: KeyboardEvent): boolean {
  return isCovered() || (target instanceof Element && target.closest('button, a') !== null);
}

/** The Desk's keys. In a field they are the field's. */
export function useDeskKeys(keys: DeskKeys): void {
  const { rows, index, row, ticked, move, open, focusList } = keys;
  const { post, edit, codingOf, tick } = useDeskActions();
  const { change } = useDeskScope();
  const books = useBooks();
  const { isHidden } = books;
  const uses = useUses();
  const dispatch = useAppDispatch();
  const makeRule = useMakeRule();
  const openPairing = useOpenPairing();
  const options = { ignoreEventWhen: isCovered, preventDefault: true };
  const enter = { ignoreEventWhen: isOnButton, preventDefault: true };
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
  useHotkeys('equal, =', () => openPairing(ticked ?? row), options);
  useHotkeys('o', () => void postOnce(), options);
  useHotkeys('r', () => row && makeRule(row), options);
  useHotkeys('enter', () => void postRow(ticked ?? row), enter);
  useHotkeys('shift+enter', () => void postRow(rows[headIndex()] ?? row), enter);
  useHotkeys('p', () => isOpenLine && dispatch(fieldOpened('payeeId')), options);
  useHotkeys('a', () => isOpenLine && dispatch(fieldOpened('accountId')), options);
  const hasTax = isOpenLine && !isHidden('taxCodeId');
  useHotkeys('t', () => hasTax && dispatch(fieldOpened('taxCodeId')), options);
  useHotkeys('n', nextAlternative, options);
  useHotkeys(
    's',
    () => {
      if (row?.kind !== 'line' || !isOpenLine) return;
      const coding = codingOf(row);
      void edit(row, coding.parts === null ? startSplit(coding) : endSplit(coding));
    },
    options,
  );
  const canTick = isOpenLine || (row?.kind === 'line' && row.line.decision?.kind === 'posted');
  useHotkeys('space', () => row && canTick && void tick(row), enter);
  useHotkeys('q', () => isOpenLine && dispatch(dialogOpened('ask')), options);
  useHotkeys('w', () => dispatch(dialogOpened('sweep')), options);
  useHotkeys('shift+slash, ?', () => dispatch(dialogOpened('keys')), options);
  useHotkeys('x', () => isOpenLine && dispatch(excludeAsked(true)), options);
  useHotkeys('/', () => document.getElementById('desk-search')?.focus(), options);
  useHotkeys(
    Object.keys(LANE_KEYS),
    ({ key }) => change({ lane: LANE_KEYS[key] ?? 'ready' }),
    options,
  );
}
