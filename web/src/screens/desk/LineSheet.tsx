import { skipToken } from '@reduxjs/toolkit/query';
import type { BankField } from '@zubrell/contract/books';
import { t } from '@zubrell/core/words/t';
import { Button } from 'react-bootstrap';
import { linesApi } from '../../api/lines.ts';
import { formatLongDate } from '../../app/formats.ts';
import { useAppDispatch } from '../../app/store.ts';
import { useBooks } from '../../app/useBooks.ts';
import { useIsResting } from '../../app/useLater.ts';
import { useShowDate } from '../../app/useToday.ts';
import { Amount } from '../../ui/Amount.tsx';
import { ErrorNote } from '../../ui/ErrorNote.tsx';
import { late } from '../../ui/late.tsx';
import { Wording } from '../../ui/Wording.tsx';
import { bankFieldNames } from './bankFieldNames.ts';
import { dialogOpened, excludeAsked } from './deskSlice.ts';
import { FitsSection } from './FitsSection.tsx';
import { HeldSection } from './HeldSection.tsx';
import { LineCodingForm } from './LineCodingForm.tsx';
import { LineTrail } from './LineTrail.tsx';
import { PostActions } from './PostActions.tsx';
import { type DeskRow, laneOfLine } from './rows.ts';
import { SuspendButton } from './SuspendButton.tsx';
import { TwiceSection } from './TwiceSection.tsx';
import { Why } from './Why.tsx';

const DecidedSection = late(
  async () => (await import('./decided/DecidedSection.tsx')).DecidedSection,
);
const ThreadSection = late(async () => (await import('./ThreadSection.tsx')).ThreadSection);

type LineRowOf = Extract<DeskRow, { kind: 'line' }>;

/** One line: what the bank says of it, why it is where it is, its coding, its history. */
export function LineSheet({
  row,
  focusList,
}: {
  readonly row: LineRowOf;
  readonly focusList: () => void;
}) {
  const { booksId, setup, bankAccountName, holderName } = useBooks();
  const { data: sheet, error } = linesApi.useLineQuery(
    useIsResting() ? { booksId, lineId: row.id } : skipToken,
  );
  const showDate = useShowDate();
  const { line } = row;
  const values: Readonly<Record<BankField, string | null | undefined>> = {
    bankAccount: bankAccountName(line.bankAccountId),
    reference: sheet?.reference,
    payee: sheet?.payee,
    type: sheet?.type,
    valueDate: sheet?.valueDate && showDate(sheet.valueDate),
    bankId: sheet?.bankId,
    chequeNumber: sheet?.chequeNumber,
    counterparty: sheet?.counterparty,
    category: sheet?.category,
    cardholder: sheet?.cardholder && holderName(line.bankAccountId, sheet.cardholder),
    original: sheet?.original,
  };
  const facts = setup.books.preferences.bankFields.map(
    (field) => [bankFieldNames[field], values[field]] as const,
  );
  return (
    <>
      <section>
        <div className="sum-line">
          <span className="sum">
            <Amount minor={line.amount} />
          </span>
          <span className="quiet">{formatLongDate(line.date)}</span>
        </div>
        <Wording text={line.description} stem={line.stem} />
        {error !== undefined && <ErrorNote error={error} />}
        <div className="facts">
          {facts.map(([name, value]) =>
            value ? [<span key={name}>{name}</span>, <span key={`${name}=`}>{value}</span>] : null,
          )}
          {sheet?.sightings.map((sighting) => [
            <span key={sighting.batchId}>{t`Imported from`}</span>,
            <span key={`${sighting.batchId}=`}>
              {t`${sighting.fileName}, row ${sighting.place}`}
            </span>,
          ])}
        </div>
      </section>
      {line.decision === null ? (
        <>
          {line.twiceOf && <TwiceSection row={row} other={line.twiceOf} focusList={focusList} />}
          {line.held !== null && <HeldSection held={line.held} />}
          <Why row={row} proposal={line.proposal} lane={laneOfLine(line)} />
          <FitsSection row={row} />
          <LineCodingForm row={row} focusList={focusList} />
        </>
      ) : (
        <DecidedSection line={line} entryId={sheet?.entryId ?? null} />
      )}
      <ThreadSection lineId={row.id} />
      {sheet && <LineTrail sheet={sheet} />}
      {line.decision === null && <Actions row={row} focusList={focusList} />}
    </>
  );
}

function Actions({ row, focusList }: { readonly row: LineRowOf; readonly focusList: () => void }) {
  const dispatch = useAppDispatch();
  return (
    <section className="actions">
      <PostActions row={row} keys="↵" focusList={focusList}>
        {t`Post this line`}
      </PostActions>
      <Button variant="plain" onClick={() => dispatch(excludeAsked(true))}>
        {t`Exclude`}
        <kbd>X</kbd>
      </Button>
      <Button variant="plain" onClick={() => dispatch(dialogOpened('ask'))}>
        {t`Ask`}
        <kbd>Q</kbd>
      </Button>
      <SuspendButton row={row} isAsked={row.line.asked === 'open'} focusList={focusList} />
    </section>
  );
}
