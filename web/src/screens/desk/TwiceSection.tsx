import type { DeskLine } from '@zubrell/contract/desk';
import { t } from '@zubrell/core/words/t';
import { Button } from 'react-bootstrap';
import { CompareLines } from '../../ui/CompareLines.tsx';
import { Moon } from '../../ui/Moon.tsx';
import { tx } from '../../ui/tx.tsx';
import type { DeskRow } from './rows.ts';
import { useDeskActions } from './useDeskActions.ts';

type LineRowOf = Extract<DeskRow, { kind: 'line' }>;
type Other = NonNullable<DeskLine['twiceOf']>;

/** The line and the one it may be a copy of, side by side, and the two answers. */
export function TwiceSection({
  row,
  other,
  focusList,
}: {
  readonly row: LineRowOf;
  readonly other: Other;
  readonly focusList: () => void;
}) {
  const { exclude, confirmBothReal } = useDeskActions();
  const { line } = row;
  return (
    <section>
      <h2 className="small-heading">{t`The same payment twice?`}</h2>
      <p className="why-line">
        {tx`${<Moon kind="check" />} This line closely resembles one imported earlier.`}
      </p>
      <CompareLines heads={[t`This line`, t`Earlier line`]} mine={picked(line)} theirs={other} />
      <div className="d-flex gap-2 mt-2">
        <Button
          variant="plain"
          onClick={() => void exclude(row, 'secondCopy', { originalId: other.id }).then(focusList)}
        >
          {t`Same payment: exclude this line`}
        </Button>
        <Button variant="plain" onClick={() => void confirmBothReal(row).then(focusList)}>
          {t`Both are real`}
        </Button>
      </div>
    </section>
  );
}

/** What is known of the other line, too. */
const picked = ({ date, amount, description }: DeskLine) => ({ date, amount, description });
