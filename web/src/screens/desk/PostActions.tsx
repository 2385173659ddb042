import { candidateNames } from '@zubrell/core/pair/candidateNames';
import { t } from '@zubrell/core/words/t';
import { Button } from 'react-bootstrap';
import { formatCount } from '../../app/formats.ts';
import { useBooks } from '../../app/useBooks.ts';
import { HandNudge } from './HandNudge.tsx';
import type { OpenRow } from './NudgeActions.tsx';
import { completeCoding, type Instead, ownAccountOf } from './rows.ts';
import { useDeskActions } from './useDeskActions.ts';
import { useMakeRule } from './useMakeRule.ts';

/** Posting a row, or what is proposed instead; only this once; and making a rule of it. */
export function PostActions({
  row,
  keys,
  children,
  focusList,
}: {
  readonly row: OpenRow;
  /** The keys that post it. */
  readonly keys: string;
  /** What the main button says where the row is to be posted. */
  readonly children: string;
  readonly focusList: () => void;
}) {
  const { setup } = useBooks();
  const { codingOf, insteadOf, post } = useDeskActions();
  const makeRule = useMakeRule();
  const instead = insteadOf(row);
  const complete = completeCoding(codingOf(row), setup, ownAccountOf(row, setup));
  const isMissing = 'missing' in complete && instead === null;
  return (
    <>
      <HandNudge row={row} />
      {'missing' in complete && isMissing && (
        <p className="doubt">{t`Enter ${complete.missing}.`}</p>
      )}
      <Button variant="main" disabled={isMissing} onClick={() => void post(row).then(focusList)}>
        {instead === null ? children : insteadLabel(instead)}
        <kbd>{keys}</kbd>
      </Button>
      {instead === null && (
        <Button
          variant="plain"
          disabled={isMissing}
          title={t`Nothing is learned from it`}
          onClick={() => void post(row, true).then(focusList)}
        >
          {t`Post once only`}
          <kbd>O</kbd>
        </Button>
      )}
      <Button variant="plain" onClick={() => makeRule(row)}>
        {t`Create rule`}
        <kbd>R</kbd>
      </Button>
    </>
  );
}

/** @example 'Pair with Invoice 1042' */
function insteadLabel(instead: Instead): string {
  switch (instead.kind) {
    case 'ask':
      return t`Ask ${instead.askedOf}`;
    case 'exclude':
      return t`Exclude line`;
    case 'pair':
      return instead.targets === null
        ? t`Pair the ${formatCount(instead.count)} lines`
        : t`Pair with ${candidateNames(instead.targets)}`;
  }
}
