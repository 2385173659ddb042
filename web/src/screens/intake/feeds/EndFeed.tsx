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
        aria-label={`End the feed of ${name}`}
        onClick={() => setIsAsking(true)}
      >
        End …
      </Button>
    );
  }
  return (
    <span className="end-feed">
      The imported lines stay.
      <Button variant="plain" onClick={() => void onEnd()}>
        End feed
      </Button>
      <Button variant="link" onClick={() => setIsAsking(false)}>
        Cancel
      </Button>
    </span>
  );
}
