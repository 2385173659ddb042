import type { DifferenceAnswer, PairingView, PairRow } from '@zubrell/contract/pairing';
import type { LineId } from '@zubrell/core/ids';
import { sumOf } from '@zubrell/core/money/minor';
import { t } from '@zubrell/core/words/t';
import { useEffect, useRef, useState } from 'react';
import { useHotkeys } from 'react-hotkeys-hook';
import { pairingApi } from '../../api/pairing.ts';
import { useAppDispatch } from '../../app/store.ts';
import { useBooks } from '../../app/useBooks.ts';
import { useUndo } from '../../app/useUndo.tsx';
import { EmptyState } from '../../ui/EmptyState.tsx';
import { ErrorNote } from '../../ui/ErrorNote.tsx';
import { settled, takenForNew } from '../desk/deskSlice.ts';
import { OfferRows } from './OfferRows.tsx';
import { PairedLines } from './PairedLines.tsx';
import { PairingFoot } from './PairingFoot.tsx';
import { PairingSide } from './PairingSide.tsx';
import { idsOf, type Offer, offerGroups, rowsById, tickedAtFirst } from './pairingShown.ts';

/** An open dialog or list has all keys to itself. */
const isCovered = () => document.querySelector('[role="dialog"], .choices li') !== null;

/** The table of what lines could be, with sums below and reasons on the right. */
export function PairingTable({
  view,
  lineIds,
  search,
  onSearch,
  onLines,
  onBack,
  error,
}: {
  readonly view: PairingView;
  readonly lineIds: readonly LineId[];
  readonly search: string;
  readonly onSearch: (search: string) => void;
  readonly onLines: (lineIds: readonly LineId[]) => void;
  readonly onBack: () => void;
  /** Why what is shown may not be what was searched for. */
  readonly error?: unknown;
}) {
  const { booksId } = useBooks();
  const { told } = useUndo();
  const dispatch = useAppDispatch();
  const [pairLines, { isLoading }] = pairingApi.usePairLinesMutation();
  const [ticked, setTicked] = useState<readonly string[]>(() => tickedAtFirst(view));
  // What was ticked stays, though another search shows other rows.
  const [kept, setKept] = useState<ReadonlyMap<string, PairRow>>(() => rowsById(view));
  const [answer, setAnswer] = useState<DifferenceAnswer | null>(null);
  const [place, setPlace] = useState(0);
  const table = useRef<HTMLTableElement>(null);
  const groups = offerGroups(view);
  const offers = groups.flatMap((group) => group.offers);
  const at = Math.min(place, offers.length - 1);
  const current = offers[at] ?? null;
  const known = new Map([...kept, ...rowsById(view)]);
  const rows = ticked
    .flatMap((id) => known.get(id) ?? [])
    .sort((a, b) => (a.date < b.date ? -1 : 1));
  const bank = sumOf(view.lines);
  const by = bank - sumOf(rows);
  const isCancelling = rows.length === 0 && view.lines.length > 1 && bank === 0;
  const isAdvance = rows.length === 0 && by !== 0 && answer?.kind === 'onAccount';
  const canPair = isCancelling || isAdvance || (rows.length > 0 && (by === 0 || answer !== null));

  useEffect(() => table.current?.focus(), []);

  function tick(offer: Offer): void {
    const ids = idsOf(offer).filter((id) => known.has(id));
    const isOn = ids.every((id) => ticked.includes(id));
    setAnswer(null);
    setKept(known);
    setTicked(
      isOn
        ? ticked.filter((id) => !ids.includes(id))
        : // A set is chosen as a whole; single rows add to each other.
          offer.kind === 'set'
          ? ids
          : [...new Set([...ticked, ...ids])],
    );
  }

  async function pair(): Promise<void> {
    if (!canPair || isLoading) return;
    const sent = await pairLines({
      booksId,
      lineIds: [...lineIds],
      targetIds: rows.map(({ id }) => id),
      difference: by === 0 ? null : answer,
      seenStep: view.seenStep,
    });
    if (!told(sent)) return;
    dispatch(settled(sent.data?.done ?? []));
    onBack();
  }

  function isNew(): void {
    dispatch(takenForNew(lineIds));
    onBack();
  }

  const options = { ignoreEventWhen: isCovered, preventDefault: true };
  useHotkeys('esc', onBack, { ignoreEventWhen: isCovered });
  useHotkeys('down, j', () => setPlace(Math.max(0, Math.min(at + 1, offers.length - 1))), options);
  useHotkeys('up, k', () => setPlace(Math.max(at - 1, 0)), options);
  useHotkeys('space', () => current && tick(current), options);
  useHotkeys('enter', () => void pair(), {
    preventDefault: true,
    ignoreEventWhen: ({ target }) =>
      isCovered() || (target instanceof Element && target.closest('button, a') !== null),
  });
  useHotkeys('n', isNew, options);
  useHotkeys('/', () => document.getElementById('pairing-search')?.focus(), options);

  return (
    <main className="pairing">
      <PairedLines
        view={view}
        search={search}
        onSearch={onSearch}
        onLines={onLines}
        onBack={onBack}
      />
      <section className="offers" aria-label={t`Possible matches`}>
        {error !== undefined && <ErrorNote error={error} />}
        <table ref={table} tabIndex={-1}>
          <colgroup>
            <col style={{ width: 38 }} />
            <col style={{ width: 66 }} />
            <col style={{ width: 200 }} />
            <col style={{ width: 180 }} />
            <col />
            <col style={{ width: 104 }} />
            <col style={{ width: 170 }} />
          </colgroup>
          <thead>
            <tr>
              <th aria-label={t`Ticked`} />
              <th>{t`Likeness`}</th>
              <th>{t`In the books`}</th>
              <th>{t`Payee`}</th>
              <th>{t`Date`}</th>
              <th className="num">{t`Amount`}</th>
              <th className="num">{t`Off by`}</th>
            </tr>
          </thead>
          {groups.map(({ heading, offers: own }) => (
            <OfferRows
              key={heading ?? ''}
              heading={heading}
              offers={own}
              ticked={ticked}
              currentId={current?.id ?? null}
              bank={bank}
              onTick={(offer) => {
                setPlace(offers.indexOf(offer));
                tick(offer);
              }}
            />
          ))}
        </table>
        {offers.length === 0 && (
          <EmptyState title={search === '' ? t`Nothing in the books matches` : t`Nothing found`}>
            <p>
              {search === ''
                ? t`No open bill, invoice or entry has this amount or adds up to it. Search for it, or code the line as new.`
                : t`Search for another text, an amount such as 640.00 or 600..700, or a date.`}
            </p>
          </EmptyState>
        )}
      </section>
      <PairingSide
        view={view}
        rows={rows}
        by={by}
        answer={answer}
        onAnswer={setAnswer}
        onLines={onLines}
      />
      <PairingFoot
        lineCount={view.lines.length}
        bank={bank}
        rows={rows}
        by={by}
        does={isCancelling ? 'hold' : isAdvance ? 'keep' : 'pair'}
        canPair={canPair && !isLoading}
        onPair={() => void pair()}
        onNew={isNew}
      />
    </main>
  );
}
