import { t } from '@zubrell/core/words/t';
import type { ReactNode } from 'react';
import { Button } from 'react-bootstrap';
import type { DeskRow } from './rows.ts';
import { useDeskActions } from './useDeskActions.ts';

/** Puts asked lines on the suspense account, so that the month can end before the answer comes. */
export function SuspendButton({
  row,
  isAsked,
  focusList,
  children = t`Post to suspense`,
}: {
  readonly row: DeskRow;
  /** Whether a question about the row is out; without one there is no button. */
  readonly isAsked: boolean;
  readonly focusList: () => void;
  readonly children?: ReactNode;
}) {
  const { suspend } = useDeskActions();
  if (!isAsked) return null;
  return (
    <Button
      variant="plain"
      title={t`Posts it to the suspense account; the question stays out, and the Board shows it until it is nil`}
      onClick={() => void suspend(row).then(focusList)}
    >
      {children}
    </Button>
  );
}
