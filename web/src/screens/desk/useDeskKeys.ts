import { useHotkeys } from 'react-hotkeys-hook';
import { useAppDispatch } from '../../app/store.ts';
import { excludeAsked, fieldOpened } from './deskSlice.ts';
import { type DeskRow, stackId } from './rows.ts';
import { useDeskActions } from './useDeskActions.ts';
import { type DeskLane, useDeskScope } from './useDeskScope.ts';

interface DeskKeys {
  readonly rows: readonly DeskRow[];
  readonly index: number;
  readonly row: DeskRow | null;
  readonly move: (to: number) => void;
  readonly open: (stack: string | null) => void;
  readonly focusList: () => void;
}

const LANE_KEYS: readonly DeskLane[] = ['ready', 'check', 'blank', 'asked', 'decided'];

/** Buttons, links and dialogs keep their own Enter and arrow keys. */
function isElsewhere(event: KeyboardEvent): boolean {
  const { target } = event;
  return (
    document.querySelector('[role="dialog"]') !== null ||
    (target instanceof Element && target.closest('button, a, [role="menu"]') !== null)
  );
}

/** The Desk's keys. In a field they are the field's. */
export function useDeskKeys({ rows, index, row, move, open, focusList }: DeskKeys): void {
  const { post } = useDeskActions();
  const { change } = useDeskScope();
  const dispatch = useAppDispatch();
  const options = { ignoreEventWhen: isElsewhere, preventDefault: true };
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
  useHotkeys('enter', () => void postRow(row), options);
  useHotkeys('shift+enter', () => void postRow(rows[headIndex()] ?? row), options);
  useHotkeys('p', () => isOpenLine && dispatch(fieldOpened('payeeId')), options);
  useHotkeys('a', () => isOpenLine && dispatch(fieldOpened('accountId')), options);
  useHotkeys('t', () => isOpenLine && dispatch(fieldOpened('taxCodeId')), options);
  useHotkeys('x', () => isOpenLine && dispatch(excludeAsked(true)), options);
  useHotkeys('/', () => document.getElementById('desk-search')?.focus(), options);
  useHotkeys(
    '1, 2, 3, 4, 5',
    (_event, { keys }) => change({ lane: LANE_KEYS[Number(keys?.[0]) - 1] ?? 'ready' }),
    options,
  );
}
