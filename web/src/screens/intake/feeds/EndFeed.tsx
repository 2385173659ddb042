import { useState } from 'react';

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
      <button
        type="button"
        className="btn btn-link"
        aria-label={`End the feed of ${name}`}
        onClick={() => setIsAsking(true)}
      >
        End …
      </button>
    );
  }
  return (
    <span className="end-feed">
      Its lines stay.
      <button type="button" className="btn btn-plain" onClick={() => void onEnd()}>
        End it
      </button>
      <button type="button" className="btn btn-link" onClick={() => setIsAsking(false)}>
        Go on
      </button>
    </span>
  );
}
