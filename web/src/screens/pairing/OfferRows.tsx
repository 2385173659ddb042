import type { PairDifference, PairRow } from '@zubrell/contract/pairing';
import { sumOf } from '@zubrell/core/money/minor';
import { candidateName, candidateNames, countedNames } from '@zubrell/core/pair/candidateNames';
import { differenceWords } from '@zubrell/core/pair/pairWords';
import { plainWording } from '@zubrell/core/text/plainWording';
import { t } from '@zubrell/core/words/t';
import type { ReactNode } from 'react';
import { useBooks } from '../../app/useBooks.ts';
import { useShowDate } from '../../app/useToday.ts';
import { tx } from '../../ui/tx.tsx';
import { idsOf, type Offer } from './pairingShown.ts';

/** Offers under one heading. */
export function OfferRows({
  heading,
  offers,
  ticked,
  currentId,
  bank,
  onTick,
}: {
  readonly heading: string | null;
  readonly offers: readonly Offer[];
  readonly ticked: readonly string[];
  readonly currentId: string | null;
  /** What the lines come to. */
  readonly bank: number;
  readonly onTick: (offer: Offer) => void;
}) {
  return (
    <tbody>
      {heading !== null && (
        <tr className="heading">
          <th colSpan={7} scope="rowgroup">
            {heading}
          </th>
        </tr>
      )}
      {offers.map((offer) => {
        const isTicked = idsOf(offer).every((id) => ticked.includes(id));
        const place = {
          isTicked,
          isCurrent: offer.id === currentId,
          onTick: () => onTick(offer),
        };
        return offer.kind === 'one' ? (
          <OneRow key={offer.id} row={offer.row} bank={bank} {...place} />
        ) : (
          <SetRows key={offer.id} set={offer.set} {...place} />
        );
      })}
    </tbody>
  );
}

interface Place {
  readonly isTicked: boolean;
  readonly isCurrent: boolean;
  readonly onTick: () => void;
}

function OneRow({
  row,
  bank,
  isTicked,
  isCurrent,
  onTick,
}: Place & { readonly row: PairRow; readonly bank: number }) {
  const { amount, currency } = useBooks();
  const showDate = useShowDate();
  const isPaired = row.pairedWith !== null;
  const differing = (kind: PairDifference['kind']) =>
    row.differences.find((each) => each.kind === kind);
  const date = differing('date');
  const off = differing('amount');
  const by = bank - row.amount;
  return (
    <tr
      className={`${isCurrent ? 'current' : ''} ${isTicked ? 'ticked' : ''}`}
      onClick={isPaired ? undefined : onTick}
    >
      <td>
        <TickBox name={candidateName(row)} isTicked={isTicked} isOff={isPaired} onTick={onTick} />
      </td>
      <td>
        <Likeness count={row.likeness} />
      </td>
      <td title={row.note ?? undefined}>
        <Named text={candidateName(row)} named={row.named} />
        {row.pays.length > 0 && (
          <span className="quiet d-block">
            {tx`pays ${<Named text={row.pays.join(', ')} named={row.named} />}`}
          </span>
        )}
        {differing('number') && <Off>{t`another number`}</Off>}
      </td>
      <td>
        {differing('payee') ? (
          <Off>{row.payee}</Off>
        ) : (
          <Named text={row.payee ?? ''} named={row.named} />
        )}
      </td>
      <td>
        {date ? (
          <Off>
            {dates(row, showDate)}, {differenceWords(date, currency)}
          </Off>
        ) : (
          dates(row, showDate)
        )}
      </td>
      <td className="num">
        {row.original ? (
          <>
            {amount(Math.abs(row.original.amount), { currency: row.original.currency })}
            <small className="quiet d-block">{t`as ${amount(Math.abs(row.amount))}`}</small>
          </>
        ) : (
          amount(Math.abs(row.amount))
        )}
      </td>
      <td className="num">
        {row.pairedWith ? (
          <Off>{t`paired ${showDate(row.pairedWith.date)}`}</Off>
        ) : off ? (
          <Off>{differenceWords(off, currency)}</Off>
        ) : by !== 0 ? (
          <Off>{amount(Math.abs(by))}</Off>
        ) : (
          amount(0)
        )}
      </td>
    </tr>
  );
}

function SetRows({
  set,
  isTicked,
  isCurrent,
  onTick,
}: Place & { readonly set: Extract<Offer, { kind: 'set' }>['set'] }) {
  const { amount } = useBooks();
  const showDate = useShowDate();
  const { rows } = set;
  const payees = [...new Set(rows.map(({ payee }) => payee))];
  const total = sumOf(rows);
  const dues = rows.map(({ dueDate, date }) => dueDate ?? date).sort();
  return (
    <>
      <tr
        className={`set ${isCurrent ? 'current' : ''} ${isTicked ? 'ticked' : ''}`}
        onClick={onTick}
      >
        <td>
          <TickBox name={candidateNames(rows)} isTicked={isTicked} isOff={false} onTick={onTick} />
        </td>
        <td>
          <Likeness count={set.likeness} />
        </td>
        <td>
          <b>
            {countedNames(rows)} {set.by === 0 ? t`that add up` : t`less a fee`}
          </b>
        </td>
        <td>{payees.length === 1 ? payees[0] : t`${payees.length} payees`}</td>
        <td>
          {showDate(dues[0] ?? '')}
          {dues.at(-1) !== dues[0] && t` to ${showDate(dues.at(-1) ?? '')}`}
        </td>
        <td className="num">
          <b>{amount(Math.abs(total))}</b>
        </td>
        <td className="num">
          {set.by === 0 ? amount(0) : <Off>{t`${amount(Math.abs(set.by))}, fee kept back?`}</Off>}
        </td>
      </tr>
      {(isTicked || isCurrent) &&
        rows.map((row) => (
          <tr key={row.id} className="part">
            <td />
            <td />
            <td>
              <Named text={candidateName(row)} named={row.named} />
            </td>
            <td>{payees.length > 1 && row.payee}</td>
            <td>{dates(row, showDate)}</td>
            <td className="num">{amount(Math.abs(row.amount))}</td>
            <td />
          </tr>
        ))}
    </>
  );
}

function dates({ date, dueDate }: PairRow, showDate: (date: string) => string): string {
  return dueDate === null ? showDate(date) : t`${showDate(date)}, due ${showDate(dueDate)}`;
}

function TickBox({
  name,
  isTicked,
  isOff,
  onTick,
}: {
  readonly name: string;
  readonly isTicked: boolean;
  readonly isOff: boolean;
  readonly onTick: () => void;
}) {
  return (
    <input
      type="checkbox"
      className="form-check-input"
      tabIndex={-1}
      aria-label={name}
      checked={isTicked}
      disabled={isOff}
      onClick={(event) => event.stopPropagation()}
      onChange={onTick}
    />
  );
}

/** How alike, as so many of four moons. */
function Likeness({ count }: { readonly count: number }) {
  return (
    <span className="likeness" role="img" aria-label={t`${count} of 4`}>
      {[1, 2, 3, 4].map((each) => (
        <i key={each} className={each <= count ? 'full' : ''} />
      ))}
    </span>
  );
}

/** What differs. */
function Off({ children }: { readonly children: ReactNode }) {
  return <span className="off-by">{children}</span>;
}

/** A text in which the words are marked that the line's wording has too. */
function Named({ text, named }: { readonly text: string; readonly named: readonly string[] }) {
  const words = new Set(named.map(plainWording));
  return (
    <>
      {text.split(/(\s+)/).map((word, at) =>
        words.has(plainWording(word)) ? (
          // biome-ignore lint/suspicious/noArrayIndexKey: the words of a text never change places
          <mark key={at}>{word}</mark>
        ) : (
          word
        ),
      )}
    </>
  );
}
