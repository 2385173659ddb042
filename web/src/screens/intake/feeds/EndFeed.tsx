import { t } from '@zubrell/core/words/t';
import { useState } from 'react';
import { Button } from 'react-bootstrap';

/** Ends a feed, after asking once more. */
export function EndFeed({
  name,
  onEnd,
}: {
  readonly name: string;
  readonly onEnd: () => Promise<void>;
}) {
  const [isAsking, setIsAsking] = useState(false);
  if (!isAsking) {
    return (
      <Button
        variant="link"
        aria-label={t`End the feed of ${name}`}
        onClick={() => setIsAsking(true)}
      >
        {t`End …`}
      </Button>
    );
  }
  return (
    <span className="end-feed">
      {t`The imported lines stay.`}
      <Button variant="plain" onClick={() => void onEnd()}>
        {t`End feed`}
      </Button>
      <Button variant="link" onClick={() => setIsAsking(false)}>
        {t`Cancel`}
      </Button>
    </span>
  );
}
