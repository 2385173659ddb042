import type { ReactNode } from 'react';

/** One reason for keeping a line out of the books, with what it asks for once it is chosen. */
export function ReasonChoice({
  name,
  what,
  isOff,
  isChosen,
  onChoose,
  children,
}: {
  readonly name: string;
  /** What it means or, where it can't be chosen, why. */
  readonly what: string;
  readonly isOff: boolean;
  readonly isChosen: boolean;
  readonly onChoose: () => void;
  readonly children?: ReactNode;
}) {
  return (
    <>
      <label className={`reason ${isOff ? 'quiet' : ''}`}>
        <input
          className="form-check-input"
          type="radio"
          name="reason"
          disabled={isOff}
          checked={isChosen}
          onChange={onChoose}
        />
        <span>
          <b>{name}</b>
          <br />
          <span className="quiet">{what}</span>
        </span>
      </label>
      {isChosen && children && <div className="reason-more">{children}</div>}
    </>
  );
}
