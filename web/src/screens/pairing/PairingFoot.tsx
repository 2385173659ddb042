import type { PairRow } from '@zubrell/contract/pairing';
import { sumOf } from '@zubrell/core/money/minor';
import { t } from '@zubrell/core/words/t';
import { Button } from 'react-bootstrap';
import { countLines, formatCount } from '../../app/formats.ts';
import { useBooks } from '../../app/useBooks.ts';
import { Amount } from '../../ui/Amount.tsx';
import { pairLabel } from './pairingShown.ts';

/** The sums of both sides, and what is to be done. */
export function PairingFoot({
  lineCount,
  bank,
  rows,
  by,
  does,
  canPair,
  onPair,
  onNew,
}: {
  readonly lineCount: number;
  readonly bank: number;
  readonly rows: readonly PairRow[];
  /** How much more the lines come to. */
  readonly by: number;
  /**
   * What the main button does: `pair` with what is ticked; with nothing ticked, `hold` lines together that cancel
   * each other, or `keep` them as credit.
   */
  readonly does: 'pair' | 'hold' | 'keep';
  readonly canPair: boolean;
  readonly onPair: () => void;
  readonly onNew: () => void;
}) {
  const { amount } = useBooks();
  const total = sumOf(rows);
  return (
    <footer className="sums">
      <div>
        <small>{countLines(lineCount)}</small>
        <b>
          <Amount minor={bank} />
        </b>
      </div>
      <div>
        <small>
          {rows.length === 0 ? t`Nothing ticked` : t`${formatCount(rows.length)} ticked`}
        </small>
        <b>
          <Amount minor={total} />
        </b>
      </div>
      <div>
        <small>{t`Difference`}</small>
        <b className={by === 0 ? 'even' : 'doubt'}>{amount(by)}</b>
      </div>
      <span className="ways">
        <Button variant="plain" onClick={onNew}>
          {t`Code as new`}
          <kbd>N</kbd>
        </Button>
        <Button variant="main" disabled={!canPair} onClick={onPair}>
          {does === 'hold'
            ? t`Match these lines`
            : does === 'keep'
              ? t`Keep ${amount(Math.abs(by))} as credit`
              : pairLabel(rows)}
          <kbd>↵</kbd>
        </Button>
      </span>
    </footer>
  );
}
